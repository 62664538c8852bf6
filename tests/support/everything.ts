import { createWhen } from '#core/automation/create';
import { type Desk } from '#core/desk/air';
import { wantedSizes } from '#core/graphics/growing';
import { must, sampleDesk } from './sample-show';

/** A desk with something of everything. */
export function withEverything(): Desk {
  let d = sampleDesk();
  const add = (type: string, args: Record<string, unknown>) => {
    d = must(d, type, args);
  };
  add('seat.add', { name: 'Host' });
  add('seat.add', { name: 'Guest' });
  add('framing.add', { source: 'a' });
  add('layout.add', { starter: 'two' });
  add('layout.add', { starter: 'inset' });
  const [first, second] = d.show.layouts as [(typeof d.show.layouts)[0], (typeof d.show.layouts)[0]];
  add('box.set', { layout: second.id, boxes: [second.boxes[1]?.id], content: { kind: 'layout', id: first.id } });
  add('style.store', { layout: first.id, box: first.boxes[0]?.id, name: 'Look', properties: ['radius', 'position', 'key'] });
  add('preset.store', { layout: first.id, name: 'Before' });
  add('group.add', { name: 'Group' });
  add('replay.addAngle', { picture: 'a' });
  add('replay.addAngle', { picture: 'b', sound: 'programme' });
  d = must(d, 'replay.start', {}, 0);
  for (const frame of [200, 300, 400]) d = must(d, 'clip.grab', { deck: 1, seconds: 4 }, frame);
  add('sound.addChannel', { name: 'Host', feed: { kind: 'seat', seatId: d.show.seats[0]?.id } });
  add('sound.addChannel', { name: 'Pier', feed: { kind: 'device', deviceId: 'card', deviceLabel: 'Card', first: 3, stereo: true } });
  add('listener.add', { name: 'Guest', kind: 'guest', ownIds: ['b'] });
  add('listener.add', { name: 'Pier PA', kind: 'room', ownIds: [d.show.sound.inputs[1]?.id] });
  const out = { deviceId: 'card', deviceLabel: 'Card', pair: 1 };
  add('sound.plug', { bus: d.show.sound.buses[2]?.id, to: out });
  add('sound.addAirPath', { from: out, to: { ...out, pair: 2 } });
  add('sound.addCardMix', { deviceId: 'card', deviceLabel: 'Card', from: 'output', fromPair: 2, to: 'output', toPair: 1 });
  add('sound.addGroup', { name: 'Cameras' });
  add('talkback.set', { channel: 'c' });
  add('clip.copyToReel', { clips: [d.show.replay.clips[0]?.id], reel: 'reel-2' });
  add('sheet.add', { name: 'Pilots' });
  const sheet = d.show.sheets[0]?.id;
  for (const name of ['Ada', 'Bo', 'Cy']) add('sheet.addRow', { sheet, cells: [name] });
  add('graphic.setSheet', { graphic: 'names', sheet: { sheetId: sheet, all: true, columns: [{ fieldId: 'name', column: 'Name' }] } });
  for (const kind of ['ticker', 'table']) {
    add('element.add', { graphic: 'names', kind });
    const element = d.show.graphics.list[0]?.elements.at(-1);
    add('element.setContent', {
      graphic: 'names',
      element: element?.id,
      content: {
        ...element?.content,
        sheetId: sheet,
        ...(kind === 'table' ? { columns: [{ column: 'Name', share: 1, across: 'left' }] } : { column: 'Name' }),
      },
    });
  }
  add('macro.add', {
    name: 'Opening',
    steps: [{ act: { kind: 'wait', amount: 400, unit: 'seconds' } }, { act: { kind: 'command', type: 'picture.take', args: {} } }],
  });
  d = must(d, 'macro.run', { macro: d.show.automation.macros[0]?.id }, 480);
  add('automation.record', {});
  for (const picture of ['a', 'b']) {
    add('order.add', {});
    add('order.set', { item: d.show.order.items.at(-1)?.id, picture, seconds: 60 });
  }
  d = must(d, 'order.go', {}, 490);
  for (const [kind, text] of [
    ['tcp', 'lamp 1 {tally: Camera}'],
    ['midi', 'note 60'],
  ]) {
    add('device.add', { kind });
    add('message.add', { device: d.show.devices.at(-1)?.id, text });
  }
  for (const name of ['Phases', 'Wall']) add('page.add', { name });
  for (const act of [
    { kind: 'command', type: 'picture.take', args: {} },
    { kind: 'page', pageId: d.show.pages[1]?.id },
  ])
    add('button.add', { page: d.show.pages[0]?.id, act });
  add('screen.add', { name: 'Foyer' });
  add('screen.add', { shows: { kind: 'picture', pictureId: 'a' }, raster: { width: 640, height: 640 } });
  add('screen.over', { outputs: [], over: { kind: 'test', pattern: 'grid' } });
  add('surface.add', { name: 'Wall', width: 1200, height: 400 });
  const surface = d.show.screens.surfaces[0]?.id;
  for (const output of d.show.screens.outputs) {
    add('surface.addScreen', {
      surface,
      outputId: output.id,
      rect: { x: d.show.screens.surfaces[0]!.screens.length * 500, y: 0, width: 600, height: 400 },
    });
    add('screen.set', { output: output.id, shows: { kind: 'surface', surfaceId: surface } });
  }
  add('surface.setScreens', { surface, screens: d.show.screens.surfaces[0]!.screens.map((s) => s.id), blends: true });
  add('surface.addPlace', { surface, name: 'Left', rect: { x: 0, y: 0, width: 300, height: 400 } });
  add('layer.background', { surface, content: { kind: 'colour', colour: '#223344' } });
  for (const id of ['a', 'b']) add('layer.add', { surface, content: { kind: 'source', id } });
  add('surface.storePreset', { surfaces: [] });
  d = must(d, 'surface.take', { surfaces: [] }, 495);
  add('guest.add', { name: 'Judge Vik', title: 'At home' });
  d = must(d, 'guest.report', { guest: d.show.guests.list[0]?.id, line: 'in', said: 'Vik' });
  d = must(d, 'guest.admit', { guest: d.show.guests.list[0]?.id });
  add('cast.store', { name: 'Two at the desk' });
  add('audience.setUp', { what: 'comments' });
  add('audience.setUp', { what: 'poll' });
  add('comment.heard', { comments: [{ id: 'said-1', from: 'somebody', name: 'Kit', text: 'Well flown!', origin: 'audience', at: 1 }] });
  add('comment.queue', { comment: 'said-1' });
  add('poll.add', { question: 'Which kite?', choices: ['The red one', 'The box kite'] });
  add('poll.open', { poll: d.show.audience.polls[0]?.id });
  add('poll.counted', { poll: d.show.audience.polls[0]?.id, votes: [3, 1] });
  add('source.add', { name: 'Encoder', settings: { kind: 'encoder' } });
  add('trigger.add', { when: createWhen('on-air', { pictureId: 'a' }), then: { kind: 'command', type: 'picture.take', args: {} } });
  add('lane.showPicture', { lane: 'lane-1', picture: 'names' });
  add('graphic.sizes', { sizes: [...wantedSizes(d).keys()].map((key) => ({ key, width: 90, height: 30 })) });
  return d;
}

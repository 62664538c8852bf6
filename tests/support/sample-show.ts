/** A small show for unit tests: cameras a, b, c, a ten-second clip, a bug for lanes, a graphic with one entry. */
import { createElement, createEntry, createField, createGraphic } from '#core/graphics/create';
import { type Graphic } from '#core/graphics/document';
import { execute, type Outcome } from '#core/desk/execute';
import { createAir, type Desk } from '#core/desk/air';
import { createShow, createSource } from '#core/desk/create';
import { type MediaSettings } from '#core/show/source';

export const CLIP: MediaSettings = {
  kind: 'media',
  assetId: 'asset',
  fileName: 'clip.mp4',
  duration: 10,
  hasSound: true,
  hasAlpha: false,
  in: 0,
  out: null,
  startOnTake: true,
  atEnd: 'hold',
};

/** A graphic of a plate and two lines, without moves of its own; one entry, `card`. */
function sampleGraphic(): Graphic {
  const words = (id: string, y: number) => createElement(id, 'text', { x: 4, y, width: 40, height: 6 }, { hideWhenEmpty: true });
  const field = (id: string) =>
    createField(id, id, { kind: 'text', text: '' }, { targets: [{ elementId: id, property: 'content', part: null }] });
  return {
    ...createGraphic('names', 'Name card', { width: 64, height: 36 }),
    elements: [createElement('plate', 'rectangle', { x: 2, y: 20, width: 44, height: 14 }), words('name', 21), words('role', 28)],
    fields: [field('name'), field('role')],
    entries: [createEntry('card', 1, [valueFor('name', 'Ada Holm'), valueFor('role', 'Pilot')])],
  };
}

/** Words filled into a field. */
export const valueFor = (fieldId: string, text: string) => ({ fieldId, value: { kind: 'text' as const, text } });

export function sampleDesk(): Desk {
  const show = createShow('show', 'Sample', { width: 64, height: 36 }, { num: 25, den: 1 });
  const simulated = ['shore', 'line', 'mast'] as const;
  (['a', 'b', 'c'] as const).forEach((id, i) => {
    show.sources.push(createSource(show, id, `Camera ${id}`, { kind: 'simulated', camera: simulated[i] ?? 'desk' }));
  });
  show.sources.push(createSource(show, 'clip', 'Clip', { ...CLIP }));
  show.sources.push({
    ...createSource(show, 'bug', 'Bug', { kind: 'still', assetId: 'bug', fileName: 'bug.png', hasAlpha: true }),
    feedsOnly: true,
    number: null,
  });
  show.graphics.list.push(sampleGraphic());
  show.transition.frames = 20;
  const air = createAir(show);
  air.onAirId = 'a';
  air.nextId = 'b';
  return { show, air };
}

let ids = 0;

/** Runs a command at `frame` and returns the whole outcome. */
export const attempt = (desk: Desk, type: string, args: Record<string, unknown> = {}, frame = 0): Outcome =>
  execute(desk, { type, args }, { frame, newId: () => `new-${(ids += 1)}` });

/** Runs a command that must succeed and returns the new desk. */
export function must(desk: Desk, type: string, args: Record<string, unknown> = {}, frame = 0): Desk {
  const outcome = attempt(desk, type, args, frame);
  if (!outcome.ok) throw new Error(`${type} was refused: ${outcome.error.message}`);
  return outcome.desk;
}

/** The sample with cameras a and b recorded as angles from frame 0 on; the present is the frame of the commands. */
export function replayDesk(): Desk {
  const angles = must(must(sampleDesk(), 'replay.addAngle', { picture: 'a' }), 'replay.addAngle', { picture: 'b' });
  return must(angles, 'replay.start', {}, 0);
}

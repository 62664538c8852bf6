import { tallyOf } from '../picture/tally';
import { sceneOf } from '../picture/scene';
import { fixture } from '#tests/support/fixtures';
import { describe, expect, it } from 'vitest';
import { attempt, must, replayDesk, sampleDesk } from '#tests/support/sample-show';
import { refProblems } from '../desk/missing';
import { showProblems } from '../desk/validate';
import { createShow } from '../desk/create';
import { readShow } from '../desk/migrate';
import { type Desk } from '../desk/air';
import { usesOf } from '../desk/uses';
import { MOST_ANGLES } from './document';
import { replayProblems } from './validate';

const angles = (desk: Desk) => desk.show.replay.angles.map((a) => [a.pictureId, a.soundId]);

describe('angles', () => {
  it('bring the decks among the sources, once, each on an angle of its own', () => {
    const desk = replayDesk();
    expect(desk.show.sources.filter((s) => s.settings.kind === 'deck').map((s) => s.name)).toEqual(['Deck 1', 'Deck 2']);
    expect([desk.air.replay.decks[1].angleId, desk.air.replay.decks[2].angleId]).toEqual(['a', 'a']);
    expect(showProblems(JSON.parse(JSON.stringify(desk.show)))).toEqual([]);
  });

  it('have their own sound, another source’s, the programme’s or none', () => {
    let desk = must(sampleDesk(), 'replay.addAngle', { picture: 'a' });
    desk = must(desk, 'replay.addAngle', { picture: 'b', sound: 'programme' });
    desk = must(desk, 'replay.addAngle', { picture: 'c', sound: null });
    desk = must(desk, 'replay.setAngleSound', { angle: 'a', sound: 'c' });
    expect(angles(desk)).toEqual([
      ['a', 'c'],
      ['b', 'programme'],
      ['c', null],
    ]);
    expect(angles(must(desk, 'replay.moveAngle', { angle: 'c', index: 0 })).map(([id]) => id)).toEqual(['c', 'a', 'b']);
    expect(attempt(desk, 'replay.setAngleSound', { angle: 'a', sound: 'gone' })).toMatchObject({ ok: false, error: { field: 'sound' } });
  });

  it.each([
    ['twice', { picture: 'a' }, 'twice'],
    ['of a still', { picture: 'bug' }, 'no-motion'],
    ['of nothing', { picture: 'gone' }, 'unknown-picture'],
  ])('are refused %s', (_, args, code) => {
    expect(attempt(must(sampleDesk(), 'replay.addAngle', { picture: 'a' }), 'replay.addAngle', args)).toMatchObject({
      ok: false,
      error: { code },
    });
  });

  it('are never decks, and at most eight', () => {
    let desk = replayDesk();
    const deck = desk.show.sources.find((s) => s.settings.kind === 'deck')?.id;
    expect(attempt(desk, 'replay.addAngle', { picture: deck })).toMatchObject({ ok: false, error: { code: 'is-deck' } });
    for (let i = 0; i < 7; i += 1) {
      desk = must(desk, 'source.add', { name: `Camera ${i}`, settings: { kind: 'simulated', camera: 'hut' } });
      const outcome = attempt(desk, 'replay.addAngle', { picture: desk.show.sources.at(-1)?.id });
      if (outcome.ok) desk = outcome.desk;
    }
    expect(desk.show.replay.angles).toHaveLength(MOST_ANGLES);
    expect(attempt(desk, 'source.setSettings', { source: 'a', settings: { kind: 'deck', deck: 1 } })).toMatchObject({
      ok: false,
      error: { code: 'twice' },
    });
  });

  it('hold their source, and let it go by force', () => {
    const desk = must(replayDesk(), 'replay.setAngleSound', { angle: 'a', sound: 'b' });
    expect(usesOf(desk.show, desk.air, 'source', 'b', 0).map((u) => u.place)).toContain('the replay angle Camera b');
    expect(attempt(desk, 'source.remove', { source: 'b' })).toMatchObject({ ok: false, error: { code: 'in-use' } });
    const gone = must(must(desk, 'picture.setNext', { picture: 'c' }), 'source.remove', { source: 'b', force: true });
    expect(angles(gone)).toEqual([['a', null]]);
  });

  it('are recorded only when there are any, and what is kept is known after the end', () => {
    expect(attempt(sampleDesk(), 'replay.start')).toMatchObject({ ok: false, error: { code: 'no-angles' } });
    const ended = must(replayDesk(), 'replay.stop', {}, 400);
    expect(ended.air.replay).toMatchObject({ recording: null, kept: { from: 0, to: 400 } });
    expect(must(ended, 'replay.start', {}, 900).air.replay.kept).toEqual({ from: 0, to: null });
    expect(must(ended, 'replay.report', { from: null, to: null }).air.replay.kept).toBeNull();
  });

  it('take only music that sounds, and a transition that is kept', () => {
    expect(attempt(sampleDesk(), 'replay.set', { musicId: 'a' })).toMatchObject({ ok: false, error: { code: 'no-sound' } });
    expect(attempt(sampleDesk(), 'replay.set', { transitionId: 'gone' })).toMatchObject({
      ok: false,
      error: { code: 'unknown-transition' },
    });
    const set = must(sampleDesk(), 'replay.set', { transitionId: 'tr-wipe' });
    expect(must(set, 'transition.remove', { transition: 'tr-wipe' }).show.replay.settings.transitionId).toBeNull();
  });
});

describe('angles of any picture', () => {
  /** Layout `Two` with cameras a and b, an angle; deck 1 shows it live. */
  function withLayout() {
    let desk = must(replayDesk(), 'layout.add', { starter: 'two' });
    const layout = desk.show.layouts[0] as (typeof desk.show.layouts)[0];
    for (const [i, id] of ['a', 'b'].entries())
      desk = must(desk, 'box.set', { layout: layout.id, boxes: [layout.boxes[i]?.id], content: { kind: 'source', id } });
    desk = must(desk, 'replay.addAngle', { picture: layout.id });
    return { desk: must(desk, 'deck.setAngle', { deck: 1, angle: layout.id }), layout: layout.id };
  }
  const deckOf = (desk: Desk) => desk.show.sources.find((s) => s.settings.kind === 'deck')?.id ?? '';

  it('are seen live in a deck as they are drawn, and their sources are in use with it', () => {
    const { desk } = withLayout();
    const onAir = must(desk, 'picture.cut', { picture: deckOf(desk) });
    const [item] = sceneOf(onAir.show, onAir.air, deckOf(desk), 10);
    expect(item?.texture.kind).toBe('scene');
    expect(item?.texture.kind === 'scene' && item.texture.scene.map((i) => i.sourceId)).toEqual(['a', 'b']);
    const tally = tallyOf(onAir.show, onAir.air, 10);
    expect([tally.a?.inUse, tally.b?.inUse, tally.c?.inUse]).toEqual([true, true, false]);
  });

  it('may be outputs: a live deck of the programme shows its frame before', () => {
    const desk = must(must(replayDesk(), 'replay.addAngle', { picture: 'programme' }), 'deck.setAngle', { deck: 1, angle: 'programme' });
    expect(desk.show.replay.angles.at(-1)).toEqual({ pictureId: 'programme', soundId: 'programme' });
    expect(sceneOf(desk.show, desk.air, deckOf(desk), 10)[0]?.texture).toEqual({ kind: 'output', id: 'programme' });
    expect(must(desk, 'replay.addAngle', { picture: 'clean' }).show.replay.angles).toHaveLength(4);
  });

  it('never show a deck, whichever way it would come in', () => {
    const { desk, layout } = withLayout();
    const box = desk.show.layouts[0]?.boxes[0]?.id;
    const deck = deckOf(desk);
    const refused = (type: string, args: Record<string, unknown>, code: string) =>
      expect(attempt(desk, type, args), type).toMatchObject({ ok: false, error: { code } });
    refused('box.set', { layout, boxes: [box], content: { kind: 'source', id: deck } }, 'circle');
    refused('replay.addAngle', { picture: deck }, 'is-deck');
    const empty = must(desk, 'seat.add', { name: 'Host' });
    const seat = empty.show.seats[0]?.id;
    const seated = must(empty, 'box.set', { layout, boxes: [box], content: { kind: 'seat', id: seat } });
    expect(attempt(seated, 'seat.fill', { seat, occupant: deck })).toMatchObject({ ok: false, error: { code: 'circle' } });
  });

  it('go with their picture, and are recorded with the sound of the one source in it, or the programme', () => {
    let desk = must(replayDesk(), 'framing.add', { source: 'c' });
    const framing = desk.show.framings[0]?.id;
    desk = must(desk, 'replay.addAngle', { picture: framing });
    expect(desk.show.replay.angles.at(-1)).toEqual({ pictureId: framing, soundId: 'c' });
    const { desk: laid, layout } = withLayout();
    expect(laid.show.replay.angles.at(-1)).toEqual({ pictureId: layout, soundId: 'programme' });
  });
});

describe('replay in a stored show', () => {
  it('is new and empty in a show from before', () => {
    const { replay } = createShow('old', 'Old', { width: 64, height: 36 }, { num: 25, den: 1 });
    expect(readShow(fixture(2).show).replay).toEqual(replay);
  });

  it('names every relation that does not hold', () => {
    const { show } = must(replayDesk(), 'clip.grab', { deck: 1, seconds: 2 }, 500);
    const clip = show.replay.clips[0];
    const broken = {
      ...show,
      replay: {
        ...show.replay,
        reelId: 'gone',
        angles: [...show.replay.angles, { pictureId: 'a', soundId: 'gone' }],
        clips: clip ? [clip, { ...clip, reelId: 'gone', out: clip.in }] : [],
      },
    };
    expect(replayProblems(broken).map((p) => p.path)).toEqual(['replay.angles[2].pictureId', 'replay.clips[1].id', 'replay.clips[1].out']);
    expect(refProblems(broken).map((p) => p.path)).toEqual(['replay.angles[2].soundId', 'replay.reelId', 'replay.clips[1].reelId']);
  });
});

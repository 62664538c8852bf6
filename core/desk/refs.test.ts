/** The walker over references, and what stands on it: uses, removal, validation. */
import fc from 'fast-check';
import { Field } from '../graphics/document';
import { Asked, Step } from '../automation/document';
import { Element } from '../graphics/element';
import { describe, expect, it } from 'vitest';
import { must, attempt, sampleDesk } from '#tests/support/sample-show';
import { fieldMap, type Constructor } from '../schema/fields';
import { ENTITY_KINDS, kindsOf, OUTSIDE, REF_TARGETS, type RefTarget } from '../schema/kinds';
import { type Desk } from './air';
import { ENTITIES, identityOf, entitiesOf, kindOfClass } from './entities';
import { type FoundRef, pathOf, walkRefs } from './refs';
import { remove } from './remove';
import { Show } from './show';
import { usesOf } from './uses';
import { refProblems } from './missing';
import { showProblems } from './validate';
import { produce } from 'immer';

/** A desk in which everything refers to something. */
function fullDesk(): Desk {
  let d = sampleDesk();
  const add = (type: string, args: Record<string, unknown>) => (d = must(d, type, args));
  add('seat.add', { name: 'Host' });
  add('seat.fill', { seat: d.show.seats[0]?.id, occupant: 'b' });
  add('framing.add', { source: 'a', name: 'Close' });
  const framing = d.show.framings[0]?.id;
  add('framing.set', { framing, key: { kind: 'fill', keyId: 'bug', premultiplied: false, invert: false } });
  add('layout.add', { starter: 'two' });
  const layout = d.show.layouts[0] as Desk['show']['layouts'][0];
  add('box.set', { layout: layout.id, boxes: [layout.boxes[0]?.id], content: { kind: 'framing', id: framing } });
  add('box.set', { layout: layout.id, boxes: [layout.boxes[1]?.id], content: { kind: 'source', id: 'c' }, visible: false });
  add('layout.edit', { layout: layout.id, frameId: 'bug', background: { kind: 'source', id: 'clip' } });
  add('style.store', { layout: layout.id, box: layout.boxes[0]?.id, name: 'Look', properties: ['radius'] });
  add('style.edit', { style: d.show.styles[0]?.id, framingIds: [framing] });
  add('preset.store', { layout: layout.id, name: 'Before' });
  add('lane.set', { lane: 'lane-1', whileId: framing });
  add('lane.setContent', { lane: 'lane-2', content: { kind: 'picture', id: 'card' } });
  add('lane.add', {});
  add('lane.setContent', { lane: d.show.lanes.at(-1)?.id, content: { kind: 'picture', id: framing } });
  add('transition.override', { from: null, to: framing, settings: d.show.transition });
  add('transition.override', { from: 'b', to: 'c', settings: d.show.transition });
  add('replay.addAngle', { picture: framing });
  add('replay.addAngle', { picture: 'programme' });
  add('replay.set', { musicId: 'clip', transitionId: 'tr-dissolve' });
  add('sound.addChannel', { name: 'Host', feed: { kind: 'seat', seatId: d.show.seats[0]?.id } });
  add('listener.add', { name: 'Guest', kind: 'guest', ownIds: ['b'] });
  add('talkback.set', { channel: 'c' });
  return d;
}

const refsOf = (show: Show): FoundRef[] => {
  const found: FoundRef[] = [];
  walkRefs(Show, show, (ref) => found.push({ ...ref, holders: [...ref.holders] }));
  return found;
};

describe('the tables of kinds', () => {
  it('know where every kind is kept, and every class of the document that has an identity is a kind', () => {
    const { show } = fullDesk();
    for (const kind of ENTITY_KINDS) {
      const { of, home, list } = ENTITIES[kind];
      if (of) expect(kindOfClass(of), kind).toBe(kind);
      for (const { id } of home ? list(show) : []) {
        const { in: holder, field } = home?.(show, id) as { in: Record<string, unknown>; field: string };
        expect(
          (holder[field] as Record<string, unknown>[]).some((item) => identityOf(kind, item) === id),
          kind,
        ).toBe(true);
      }
    }
    // Elements and fields have an identity in their graphic only, which its duplicates share; steps and what is asked for in their macro.
    const seen = new Set<Constructor>([Element, Field, Step, Asked]);
    const look = (of: Constructor) => {
      if (seen.has(of)) return;
      seen.add(of);
      const fields = fieldMap(of);
      if (fields.has('id') && !fields.get('id')?.ref && of !== Show) expect(kindOfClass(of), of.name).toBeDefined();
      for (const field of fields.values()) if (field.nested) look(field.nested.of());
    };
    look(Show);
  });

  it('say every reference of the document: no field whose name ends in Id is a plain identity', () => {
    const seen = new Set<Constructor>();
    const loose: string[] = [];
    const look = (of: Constructor) => {
      if (seen.has(of)) return;
      seen.add(of);
      for (const field of fieldMap(of).values()) {
        if (/Ids?$/.test(field.name) && !field.ref) loose.push(`${of.name}.${field.name}`);
        if (field.nested) look(field.nested.of());
      }
    };
    look(Show);
    // A clip may name an angle that is recorded no longer, and a device lives outside of the show. Elements and fields are known within their
    // graphic only (graphics/validate.ts), and what a graphic was a duplicate of may be gone.
    expect(loose.sort()).toEqual([
      'Card.deviceId',
      'Clip.angleIds',
      'Element.parentId',
      'ElementMask.elementId',
      'EntryValue.fieldId',
      'FieldTarget.elementId',
      'Graphic.designId',
      'Pair.deviceId',
      'SheetColumn.fieldId',
    ]);
  });

  it('list what a reference may point at', () => {
    const { show } = fullDesk();
    for (const to of Object.keys(REF_TARGETS) as RefTarget[]) {
      if (kindsOf(to).some((kind) => OUTSIDE.includes(kind))) continue;
      expect(
        entitiesOf(show, to).every((e) => typeof e.id === 'string'),
        to,
      ).toBe(true);
    }
    expect(entitiesOf(show, 'view').map((e) => e.id)).toEqual(expect.arrayContaining(['a', 'programme', 'clean']));
  });
});

describe('the walker', () => {
  it('finds every reference with its path, and those of one kind without going through the rest', () => {
    const { show } = fullDesk();
    const all = refsOf(show);
    expect(all.map(pathOf)).toEqual(
      expect.arrayContaining([
        'lanes[0].whileId',
        'lanes[3].content.id',
        'framings[0].key.keyId',
        'layouts[0].boxes[0].content.id',
        'layouts[0].background.id',
        'styles[0].framingIds[0]',
        'overrides[0].toId',
        'replay.angles[0].pictureId',
        'sound.listeners[2].ownIds[0]',
        'output.recording.outputId',
        'sources[3].settings.assetId',
      ]),
    );
    const entered: string[] = [];
    const entries: string[] = [];
    walkRefs(
      Show,
      show,
      (ref) => ref.id === 'card' && entries.push(pathOf(ref)),
      new Set(['entry']),
      (holder) => (entered.push(holder.of.name), true),
    );
    expect(entries).toEqual(['lanes[1].content.id']);
    expect(entered).not.toContain('Clip');
  });

  it('tells what is missing in a show, wherever it is', () => {
    const { show } = fullDesk();
    const refs = refsOf(show).filter((r) => !kindsOf(r.to).some((kind) => OUTSIDE.includes(kind)));
    for (const ref of refs) {
      const broken = JSON.parse(JSON.stringify(show)) as Show;
      const holder = ref.holders.reduce<Record<string, unknown>>(
        (node, { field, index }) => {
          if (!field) return node;
          const value = node[field.name] as Record<string, unknown>;
          return index === null ? value : ((value as unknown as Record<string, unknown>[])[index] as Record<string, unknown>);
        },
        broken as unknown as Record<string, unknown>,
      );
      if (ref.index === null) holder[ref.field.name] = 'nowhere';
      else (holder[ref.field.name] as string[])[ref.index] = 'nowhere';
      expect(
        refProblems(broken).map((p) => p.path),
        pathOf(ref),
      ).toContain(pathOf(ref));
    }
    expect(refProblems(show)).toEqual([]);
  });
});

describe('uses', () => {
  it('name every place of a framing: style, lane, override, angle and box; so it is not removed in silence', () => {
    const { show, air } = fullDesk();
    const framing = show.framings[0]?.id as string;
    expect(usesOf(show, air, 'framing', framing, 0).map((u) => u.place)).toEqual([
      'what brings Names',
      'held ready in Lane 4',
      expect.stringMatching(/^box .* of Two/),
      expect.stringMatching(/^box .* of Before/),
      'style Look',
      'the transition of its own to Close',
      'the replay angle Close',
    ]);
    const refused = attempt({ show, air }, 'framing.remove', { framing });
    expect(refused).toMatchObject({ ok: false, error: { code: 'in-use' } });
    expect(refused.ok ? '' : refused.error.message).toContain('style Look');
  });

  it('are on air where the audience sees them, and not where a box is hidden', () => {
    const d = fullDesk();
    const layout = d.show.layouts[0]?.id;
    const onAir = must(must(d, 'picture.setNext', { picture: layout }), 'picture.cut', {});
    const places = (id: string) =>
      usesOf(onAir.show, onAir.air, 'source', id, 5)
        .filter((u) => u.onAir)
        .map((u) => u.place);
    expect(places('bug')).toEqual(['key of framing Close', 'frame of Two boxes']);
    expect(places('clip')).toEqual(['background of Two boxes']);
    expect(places('c')).toEqual([]);
  });
});

describe('removing', () => {
  const kinds = ENTITY_KINDS.filter((kind) => ENTITIES[kind].home !== null);

  it('leaves no reference to what is gone, whatever it was, and nothing else is touched', () => {
    const start = fullDesk();
    for (const kind of kinds) {
      for (const { id } of ENTITIES[kind].list(start.show)) {
        const after = produce(start, (draft) => remove(draft, kind, id));
        expect(
          ENTITIES[kind].list(after.show).some((e) => e.id === id),
          `${kind} ${id}`,
        ).toBe(false);
        // The programme bus and the chosen reel are needed: their commands refuse, or give another first.
        if ((kind === 'bus' && id === 'programme') || (kind === 'reel' && id === start.show.replay.reelId)) continue;
        expect(showProblems(JSON.parse(JSON.stringify(after.show))), `${kind} ${id}`).toEqual([]);
      }
    }
  });

  it('of many things one after another leaves a sound show', () => {
    fc.assert(
      fc.property(fc.array(fc.record({ kind: fc.constantFrom(...kinds), at: fc.nat(40) }), { maxLength: 25 }), (steps) => {
        let desk = fullDesk();
        for (const { kind, at } of steps) {
          const list = ENTITIES[kind].list(desk.show);
          const id = list[at % Math.max(1, list.length)]?.id;
          if (id === undefined || (kind === 'bus' && id === 'programme') || (kind === 'reel' && id === desk.show.replay.reelId)) continue;
          desk = produce(desk, (draft) => remove(draft, kind, id));
          expect(refProblems(desk.show)).toEqual([]);
        }
      }),
      { numRuns: 70 },
    );
  });

  it('clears, or takes away whole, as the field says', () => {
    const d = fullDesk();
    const framing = d.show.framings[0]?.id as string;
    const { show } = produce(d, (draft) => remove(draft, 'framing', framing));
    expect([show.lanes[0]?.whileId, show.lanes[2]?.content, show.styles[0]?.framingIds, show.layouts[0]?.boxes[0]?.content]).toEqual([
      null,
      null,
      [],
      null,
    ]);
    // For any picture would mean something else than for one that is gone.
    expect(show.overrides.map((o) => [o.fromId, o.toId])).toEqual([['b', 'c']]);
    expect(show.replay.angles.map((a) => a.pictureId)).toEqual(['programme']);
    const less = produce(d, (draft) => remove(draft, 'source', 'b')).show;
    expect(less.overrides.map((o) => o.toId)).toEqual([framing]);
    // A guest who was nobody but the source that is gone, with the bus that was made for them.
    expect([less.sound.listeners.length, less.sound.buses.length]).toEqual([
      d.show.sound.listeners.length - 1,
      d.show.sound.buses.length - 1,
    ]);
    const layout = d.show.layouts[0]?.id as string;
    expect(produce(d, (draft) => remove(draft, 'layout', layout)).show.presets[0]?.layoutId).toBeNull();
  });
});

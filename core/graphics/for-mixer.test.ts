/** What crosses to the mixer of thousands of entries, and that copies are known again. */
import { describe, expect, it } from 'vitest';
import { must, sampleDesk, valueFor } from '#tests/support/sample-show';
import { graphicsForMixer } from './for-mixer';
import { intern, internDesk } from './intern';
import { drawnElements } from './values';

describe('graphics for the mixer', () => {
  const many = () => {
    let desk = sampleDesk();
    for (let i = 0; i < 20; i += 1) desk = must(desk, 'entry.add', { graphic: 'names', values: [valueFor('name', `Nobody ${i}`)] });
    return must(desk, 'graphic.add', { name: 'Not used' });
  };

  it('are those that something refers to, with just the entries that are meant', () => {
    const desk = must(many(), 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: 'card' } });
    const sent = graphicsForMixer(desk, [], null);
    expect(sent.list.map((g) => [g.id, g.entries.map((e) => e.id)])).toEqual([['names', ['card']]]);
    const other = desk.show.graphics.list[0]?.entries[7]?.id as string;
    expect(graphicsForMixer(desk, [other], null).list[0]?.entries).toHaveLength(2);
    expect(graphicsForMixer(many(), [], null).list).toEqual([]);
  });

  it('are the same object while nothing of them has changed', () => {
    const desk = must(many(), 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: 'card' } });
    const sent = graphicsForMixer(desk, [], null);
    const elsewhere = must(must(desk, 'picture.cut', { picture: 'b' }), 'entry.set', {
      entry: desk.show.graphics.list[0]?.entries[9]?.id,
      field: 'name',
      value: { kind: 'text', text: 'x' },
    });
    expect(graphicsForMixer(elsewhere, [], sent)).toBe(sent);
    const edited = must(desk, 'entry.set', { entry: 'card', field: 'name', value: { kind: 'text', text: 'x' } });
    expect(graphicsForMixer(edited, [], sent)).not.toBe(sent);
    expect(graphicsForMixer(must(desk, 'graphic.set', { graphic: 'names', in: null, name: 'Other' }), [], sent)).not.toBe(sent);
  });

  it('show what their windows show', () => {
    let desk = must(many(), 'graphic.add', { name: 'Frame' });
    const frame = desk.show.graphics.list.at(-1)?.id as string;
    desk = must(desk, 'element.add', { graphic: frame, kind: 'window' });
    const element = desk.show.graphics.list.at(-1)?.elements[0]?.id;
    desk = must(desk, 'element.setContent', { graphic: frame, element, content: { kind: 'window', pictureId: 'card', fit: 'cover' } });
    desk = must(desk, 'picture.setNext', { picture: frame });
    expect(
      graphicsForMixer(desk, [], null)
        .list.map((g) => g.id)
        .sort(),
    ).toEqual(['names', frame].sort());
  });
});

describe('copies that cross a port', () => {
  it('are known again, so that what was worked out for them stays', () => {
    const copy = () => structuredClone(must(sampleDesk(), 'lane.showPicture', { lane: 'lane-1', picture: 'card' }));
    const [one, two] = [copy(), copy()];
    internDesk(one, true);
    internDesk(two, true);
    const shown = (desk: typeof one) => {
      const picture = desk.air.lanes['lane-1']?.picture;
      if (picture?.kind !== 'graphic') throw new Error('not shown');
      return drawnElements(picture.shown);
    };
    expect(shown(one)).toBe(shown(two));
    expect(intern([1, 2])).toBe(intern([1, 2]));
    expect(intern([1, 2])).not.toBe(intern([1, 3]));
  });
});

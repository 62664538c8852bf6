/** What panels may look at: pictures of the show, and nothing that is worked out elsewhere. */
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { wantedPicture } from './wanted-picture';

const of = (raw: unknown) => wantedPicture(JSON.stringify(raw));

it('is a picture when it is whole, without what does not belong to it', () => {
  expect(of({ kind: 'programme', plan: { base: [] } })).toEqual({ kind: 'programme' });
  expect(of({ kind: 'picture', id: 'a', matte: true })).toEqual({ kind: 'picture', id: 'a', matte: true });
  expect(of({ kind: 'over', over: 'air', laneId: 'l', id: 'a' })).toEqual({ kind: 'over', over: 'air', laneId: 'l', id: 'a' });
  const view = { x: 0, y: 0, width: 100, height: 50 };
  expect(of({ kind: 'canvas', surfaceId: 's', which: 'next', view, light: null })).toMatchObject({ view, light: null });
});

it('is none when it is damaged, or would have the host work out something of the panel’s', () => {
  for (const bad of [
    { kind: 'plan', plan: { base: [{ texture: { kind: 'scene' } }] } },
    { kind: 'trial', transition: {} },
    { kind: 'constructor' },
    { kind: 'picture' },
    { kind: 'picture', id: 'x'.repeat(100) },
    { kind: 'over', over: 'below', laneId: 'l', id: 'a' },
    { kind: 'canvas', surfaceId: 's', which: 'air', view: { x: 0, y: 0, width: 0, height: 5 } },
    { kind: 'canvas', surfaceId: 's', which: 'air', view: { x: 1e9, y: 0, width: 5, height: 5 } },
    { kind: 'canvas', surfaceId: 's', which: 'air', view: 7 },
    null,
    [],
    7,
  ])
    expect([bad, of(bad)]).toEqual([bad, null]);
  expect(wantedPicture('{')).toBeNull();
  fc.assert(fc.property(fc.json(), (text) => (wantedPicture(text), true)));
});

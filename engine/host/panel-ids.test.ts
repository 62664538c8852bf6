/** New identities of panels at the host: their own and rising, or the host's. */
import { expect, it } from 'vitest';
import { type FromPass } from '#core/panels/messages';
import { panelId } from '#core/panels/panel-messages';
import { PanelIds } from './panel-ids';

const from = (ids: string[], session = 'abc'): FromPass => ({ by: { id: 'p', name: 'Runa' }, session, key: 'k', ids });

it('are taken in their order, once, and never from another connection', () => {
  const all = new PanelIds();
  const first = all.maker(from([panelId('abc', 0), panelId('abc', 1)]));
  expect([first(), first()]).toEqual(['abc-0', 'abc-1']);
  // More than came along are the host's.
  expect(first()).toMatch(/^[\w-]{12}$/);
  // Again, backwards, another's, made up: the host's own, and none twice.
  const forged = all.maker(from(['abc-1', 'abc-0', 'xyz-7', 'source-a', 'abc-2']));
  const made = [forged(), forged(), forged(), forged(), forged()];
  expect(made[4]).toBe('abc-2');
  expect(made.slice(0, 4).every((id) => !['abc-1', 'abc-0', 'xyz-7', 'source-a'].includes(id))).toBe(true);
  expect(new Set(made).size).toBe(5);
  expect(all.maker()()).toMatch(/^[\w-]{12}$/);
});

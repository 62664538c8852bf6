/** How long work is told of. */
import { afterEach, expect, it } from 'vitest';
import { over, say, sayShare, useSaid } from './say';

afterEach(() => useSaid.setState({ list: [] }));

it('says the share of long work in one line, by hundredths, until something else stands in its place', () => {
  const told: string[] = [];
  const stop = useSaid.subscribe(({ list }) => told.push(list.map((s) => s.text).join(' | ')));
  const { id, share } = sayShare('Taking in flight.mp4');
  for (let i = 0; i <= 10_000; i += 1) share(i / 25_000);
  expect(useSaid.getState().list.map((s) => s.text)).toEqual(['Taking in flight.mp4: 40 %']);
  expect(told).toHaveLength(41);
  say.good('flight.mp4 is in the list.', { id });
  // What was there before is over only when it says so: a share that comes late does not bring it back.
  over(id);
  share(1);
  stop();
  expect(useSaid.getState().list.map((s) => s.text)).toEqual(['flight.mp4 is in the list.']);
});

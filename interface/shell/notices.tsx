/** Brings what the show itself says to the line of notices. */
import { useEffect, useRef } from 'react';
import { over, say, useSaid } from '../client/say';
import { useShow, useShowClient } from '../client/show-client';

/** Milliseconds that a caution of the show stands; trouble stands until it is over or read. */
const CAUTION_MS = 30_000;

/** Notices of the show, as long as what they say is so. */
export function Notices() {
  const client = useShowClient();
  const notices = useShow((s) => s.notices);
  const failure = useShow((s) => s.failure);
  const told = useRef(new Set<string>());
  useEffect(() => {
    for (const { id, tone, text, anyway } of notices) {
      if (told.current.has(id)) continue;
      told.current.add(id);
      if (tone === 'trouble') say.trouble(text, { id, duration: Infinity });
      else if (tone === 'caution')
        say.caution(text, {
          id,
          duration: CAUTION_MS,
          ...(anyway && { action: { label: 'All the same', onClick: () => (client.dispatch(anyway), client.dismiss(id)) } }),
        });
      else say.info(text, { id });
    }
    for (const id of told.current) {
      if (notices.some((n) => n.id === id)) continue;
      told.current.delete(id);
      over(id);
    }
  }, [notices, client]);
  useEffect(() => {
    if (failure) say.trouble(`${failure} Reload the page to start it again.`, { id: 'failure', duration: Infinity });
    else over('failure');
  }, [failure]);
  // What has been read here is read.
  useEffect(
    () =>
      useSaid.subscribe(({ list }) => {
        for (const { id } of list.filter((s) => s.over && told.current.has(s.id))) client.dismiss(id);
      }),
    [client],
  );
  useEffect(() => {
    const ids = told.current;
    return () => ids.forEach(over);
  }, []);
  return null;
}

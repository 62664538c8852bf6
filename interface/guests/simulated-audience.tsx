/** A simulated audience: people who come in by the real door, write and vote, so that one can try moderation and polls. */
import { create } from 'zustand';
import { AudienceVisit } from '#engine/audience/audience-visit';
import { type ShowClient } from '#engine/client/show-client';
import { ALL_OF_THEM } from '#core/panels/way-name';

/** What one of them says, and how they vote. */
export interface SimulatedPerson {
  name: string;
  everyMs: number;
  comment: (n: number) => string;
  choice: (choices: number) => number;
}

const PEOPLE = 12;

export const useSimulatedAudience = create<{ people: number }>(() => ({ people: 0 }));

let ends: (() => void)[] = [];

function join(place: ConstructorParameters<typeof AudienceVisit>[0], person: SimulatedPerson, first: number): () => void {
  const visit = new AudienceVisit(place);
  visit.introduce(person.name, null);
  let n = 0;
  const write = () => {
    visit.comment(person.comment(n));
    n += 1;
  };
  const begin = setTimeout(write, first);
  const timer = setInterval(write, person.everyMs);
  const unwatch = visit.store.subscribe(({ page, chosen }) => {
    const poll = page?.poll;
    if (!poll?.open || chosen[poll.key] !== undefined) return;
    // People think before they choose; each is asked once.
    setTimeout(() => {
      const now = visit.store.getState().page?.poll;
      if (now?.open && now.key === poll.key && visit.store.getState().chosen[poll.key] === undefined)
        visit.vote(poll.key, Math.min(poll.choices.length - 1, person.choice(poll.choices.length)));
    }, first);
  });
  return () => {
    clearTimeout(begin);
    clearInterval(timer);
    unwatch();
    visit.close();
  };
}

/** Lets them come in, by the way of the audience, which is made where there is none; or go. */
export async function simulateAudience(client: ShowClient, on: boolean, personOf: (number: number) => SimulatedPerson): Promise<void> {
  for (const end of ends.splice(0)) end();
  useSimulatedAudience.setState({ people: 0 });
  if (!on) return;
  const { ways } = client.ways.store.getState();
  const way = ways.find((w) => w.kind === 'audience') ?? (await client.ways.make('audience', ALL_OF_THEM, null));
  ends = Array.from({ length: PEOPLE }, (_, i) =>
    join({ show: client.showId, secret: way.secret, device: `simulated-${i}` }, personOf(i), 500 + i * 700),
  );
  useSimulatedAudience.setState({ people: PEOPLE });
}

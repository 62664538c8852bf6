/** What the pages of the audience show, worked out from the desk. Pure. */
import { type Desk } from '../desk/air';
import { type Poll } from './document';
import { type AudienceSetUp, type PagePoll } from './line';
import { shares } from './rows';

/** Which votes belong together: those of a poll since its votes were last taken away. */
export const pollKey = ({ id, round }: Pick<Poll, 'id' | 'round'>): string => `${id}.${round}`;

/** The poll on the page of the audience, open or closed; undefined for none. */
export const pollOnPage = ({ show, air }: Pick<Desk, 'show' | 'air'>): Poll | undefined =>
  show.audience.polls.find((p) => p.id === air.audience.poll?.id);

function pagePoll(desk: Desk): PagePoll | null {
  const { poll: now } = desk.air.audience;
  const poll = pollOnPage(desk);
  if (!now || !poll) return null;
  const votes = poll.choices.map((c) => c.votes);
  return {
    key: pollKey(poll),
    question: poll.question,
    choices: poll.choices.map((c) => c.text),
    open: now.open,
    results: now.results ? { shares: shares(votes), votes: votes.reduce((sum, v) => sum + v, 0) } : null,
  };
}

export const setUpOf = (desk: Desk): AudienceSetUp => ({
  page: { show: desk.show.name, open: desk.show.audience.open, poll: pagePoll(desk) },
  perMinute: desk.show.audience.perMinute,
  banned: [...desk.show.audience.banned],
});

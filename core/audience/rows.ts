/** Comments and polls as rows of sheets: graphics, tables and tickers show them like any other rows. Pure. */
import { lineOf } from '../sheets/row';
import { type Sheet } from '../sheets/document';
import { type AudienceAir } from './air';
import { type Audience, type Poll } from './document';

/** What a sheet holds of it. */
export type Table = Pick<Sheet, 'columns' | 'rows' | 'key' | 'images'>;

const COMMENT_COLUMNS = ['Id', 'Name', 'Text', 'Picture', 'From', 'Changed'];
const POLL_COLUMNS = ['No', 'Question', 'Choice', 'Votes', 'Share', 'Of most', 'All votes'];

/** The comments that were chosen, each known by its identity. */
const commentTable = ({ queue }: Pick<Audience, 'queue'>): Table => ({
  columns: COMMENT_COLUMNS,
  rows: queue.map((c) =>
    lineOf([c.id, c.name, c.text, c.pictureId === null ? '' : c.id, c.origin, c.text === c.written ? '' : 'changed by the crew']),
  ),
  key: 'Id',
  images: queue.flatMap((c) => (c.pictureId === null ? [] : [{ name: c.id, assetId: c.pictureId }])),
});

/** Whole percents that make 100 together: the largest remainders get what is left over (Hare quota). All 0 without votes. */
export function shares(votes: readonly number[]): number[] {
  const all = votes.reduce((sum, v) => sum + v, 0);
  if (all === 0) return votes.map(() => 0);
  const exact = votes.map((v) => (v / all) * 100);
  const whole = exact.map(Math.floor);
  const missing = 100 - whole.reduce((sum, n) => sum + n, 0);
  const order = exact.map((n, i) => ({ i, rest: n - Math.floor(n) })).sort((a, b) => b.rest - a.rest || a.i - b.i);
  for (const { i } of order.slice(0, missing)) whole[i] = (whole[i] ?? 0) + 1;
  return whole;
}

/** A row for each choice. Empty without a poll. */
function pollTable(poll: Poll | undefined): Table {
  const votes = poll?.choices.map((c) => c.votes) ?? [];
  const [percent, most, all] = [shares(votes), Math.max(1, ...votes), votes.reduce((sum, v) => sum + v, 0)];
  return {
    columns: POLL_COLUMNS,
    rows: (poll?.choices ?? []).map(({ text, votes: own }, i) =>
      lineOf([
        String(i + 1),
        poll?.question ?? '',
        text,
        String(own),
        String(percent[i]),
        String(Math.round((own / most) * 1000) / 10),
        String(all),
      ]),
    ),
    key: 'No',
    images: [],
  };
}

/** What a sheet holds that comes from the audience; null for any other. */
export function audienceTable(
  { source }: Pick<Sheet, 'source'>,
  audience: Pick<Audience, 'queue' | 'polls'>,
  { poll }: Pick<AudienceAir, 'poll'>,
): Table | null {
  if (source.kind === 'comments') return commentTable(audience);
  if (source.kind !== 'poll') return null;
  const wanted = source.pollId ?? poll?.id ?? audience.polls[0]?.id;
  return pollTable(audience.polls.find((p) => p.id === wanted));
}

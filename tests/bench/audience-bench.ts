/** A crowd beside the demo: what 2,000 pages with 200 comments a second cost the server and the window that runs the show. */
import { type ChildProcess, fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { type Page } from 'puppeteer-core';
import { pick, send, until, wait } from '../support/desk';

const PEOPLE = 2000;
const COMMENTS = 200;
const SECONDS = 30;

interface Run {
  people: number;
  /** Processor time of the server's process, cores. */
  cores: number;
  mixed: number;
  dropped: number;
  drawMs: number;
}

export interface AudienceFigures {
  runs: Run[];
  /** From the opening of a poll to the last of their votes counted, seconds; they vote within eight. */
  votesSeconds: number;
  votes: number;
  /** Comments that senders were told were taken, those that came to the desk, and those passed over. */
  comments: { sent: number; inbox: number; passed: number };
  closed: number;
}

async function run(page: Page, people: number): Promise<Run> {
  const now = () => pick(page, (s) => ({ mixed: s.mixer.frames, dropped: s.mixer.dropped }));
  const [before, used, at] = [await now(), process.cpuUsage(), performance.now()];
  await wait(SECONDS * 1000);
  const { user, system } = process.cpuUsage(used);
  const seconds = (performance.now() - at) / 1000;
  const after = await now();
  const drawMs = await pick(page, (s) => s.samples.slice(-20).reduce((sum, x) => sum + x.drawMs, 0) / 20);
  return {
    people,
    cores: Math.round(((user + system) / 1e6 / seconds) * 1000) / 1000,
    mixed: after.mixed - before.mixed,
    dropped: after.dropped - before.dropped,
    drawMs: Math.round(drawMs * 10) / 10,
  };
}

const asked = <T>(child: ChildProcess, what: object): Promise<T> =>
  new Promise((resolve) => {
    child.once('message', (message) => resolve(message as T));
    child.send(what);
  });

/** `page` has the demo open, at the server of `port`, which runs in this process. */
export async function benchAudience(page: Page, port: number): Promise<AudienceFigures> {
  const id = await page.evaluate(() => window.bivocaHost?.showId ?? '');
  const secret = await page.evaluate(async () => (await window.bivocaHost!.ways.make('audience', 'all', null)).secret);
  await send(page, 'audience.set', { perMinute: 60 });
  const poll = await send(page, 'poll.add', { question: 'Which kite?', choices: ['Red', 'Box', 'Tail'] });
  if (!poll.ok) throw new Error(poll.error.message);
  const runs = [await run(page, 0)];
  const child = fork(fileURLToPath(new URL('voters.ts', import.meta.url)), [String(port), id, secret, String(PEOPLE), String(COMMENTS)]);
  await new Promise((resolve) => child.once('message', resolve));
  await send(page, 'poll.open', { poll: poll.result.id });
  const began = performance.now();
  runs.push(await run(page, PEOPLE));
  const votes = () => pick(page, ({ desk }) => desk.show.audience.polls[0]?.choices.reduce((sum, c) => sum + c.votes, 0) ?? 0);
  await until(async () => (await votes()) === PEOPLE, 'all votes', 60_000);
  const votesSeconds = Math.round((performance.now() - began) / 100) / 10;
  const { counts } = await asked<{ counts: { taken: number; closed: number } }>(child, {});
  const { inbox, passed } = await page.evaluate(() => ({
    inbox: window.bivocaHost!.state.desk.air.audience.inbox.length,
    passed: window.bivocaHost!.audience.store.getState().passed,
  }));
  child.kill();
  await page.evaluate(() => window.bivocaHost!.ways.withdraw('audience', 'all'));
  return { runs, votesSeconds, votes: await votes(), comments: { sent: counts.taken, inbox, passed }, closed: counts.closed };
}

export const audienceLines = ({ runs, votesSeconds, votes, comments, closed }: AudienceFigures): string[] => [
  ...runs.map(
    ({ people, cores, mixed, dropped, drawMs }) =>
      `With ${people} pages${people > 0 ? ` and ${COMMENTS} comments a second` : ''}: the server takes ${cores} of a core; ${dropped} of ${mixed + dropped} programme frames dropped, ${drawMs} ms of drawing each.`,
  ),
  `${votes} votes of ${PEOPLE} counted after ${votesSeconds} s at most (looked at after ${SECONDS}); ${closed} pages lost their line.`,
  `Comments taken ${comments.sent}, in the desk ${comments.inbox} (its most), passed over ${comments.passed}.`,
];

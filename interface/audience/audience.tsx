/** The page of the audience: write to the show, vote, and read what the crew answers. A page of its own, as hundreds of phones open it. */
import { StrictMode, useEffect, useState } from 'react';
import { createRoot } from 'react-dom/client';
import { useStore } from 'zustand';
import { LONGEST_COMMENT, LONGEST_SENDER_NAME } from '#core/audience/limits';
import { type PagePoll, REFUSALS } from '#core/audience/line';
import { AudienceVisit } from '#engine/audience/audience-visit';
import '../theme/theme.css';
import { smallPicture } from './small-picture';

const showId = decodeURIComponent(location.pathname.split('/')[2] ?? '');
const secret = new URLSearchParams(location.hash.slice(1)).get('in') ?? '';

/** What this browser keeps; a browser that keeps nothing forgets it with the page. */
function kept<T>(name: string, first: T): [T, (value: T) => void] {
  const key = `bivoca.audience ${showId} ${name}`;
  const read = (): T => {
    try {
      return (JSON.parse(localStorage.getItem(key) ?? 'null') as T | null) ?? first;
    } catch {
      return first;
    }
  };
  return [
    read(),
    (value) => {
      try {
        localStorage.setItem(key, JSON.stringify(value));
      } catch {
        // Full, or not allowed.
      }
    },
  ];
}

const [device, keepDevice] = kept('device', '');
const own = device || crypto.randomUUID?.() || String(Math.random()).slice(2);
keepDevice(own);
const [chosenBefore, keepChosen] = kept<Record<string, number>>('votes', {});
const [me, keepMe] = kept<{ name: string; picture: string | null }>('me', { name: '', picture: null });

const visit = new AudienceVisit({ show: showId, secret, device: own }, chosenBefore);
visit.store.subscribe(({ chosen }, before) => chosen !== before.chosen && keepChosen(chosen));
if (me.name !== '') visit.introduce(me.name, me.picture);

const FIELD = 'min-h-12 w-full text-lg';
const PRESS = 'min-h-12 border border-line bg-raised px-4 text-lg font-semibold hover:border-muted';

function Poll({ poll, mine }: { poll: PagePoll; mine: number | undefined }) {
  return (
    <section aria-label="Poll" className="flex flex-col gap-2">
      <h2 className="text-xl font-semibold">{poll.question}</h2>
      {poll.choices.map((choice, i) => (
        <button
          key={i}
          type="button"
          aria-pressed={mine === i}
          disabled={!poll.open}
          className={`relative min-h-14 overflow-hidden border-2 px-4 text-left text-lg ${mine === i ? 'border-straw' : 'border-line'} bg-panel`}
          onClick={() => visit.vote(poll.key, i)}
        >
          {poll.results && (
            <span
              aria-hidden
              className="absolute inset-y-0 left-0 bg-raised transition-[width] duration-500"
              style={{ width: `${poll.results.shares[i] ?? 0}%` }}
            />
          )}
          <span className="relative flex items-baseline gap-3">
            <span className="min-w-0 flex-1 break-words">{choice}</span>
            {mine === i && <span className="text-straw">your vote</span>}
            {poll.results && <span className="figures">{poll.results.shares[i]} %</span>}
          </span>
        </button>
      ))}
      <p className="text-muted" role="status">
        {poll.open ? (mine === undefined ? 'Choose one.' : 'You may change it until the poll is closed.') : 'The poll is closed.'}
        {poll.results && ` ${poll.results.votes} have voted.`}
      </p>
    </section>
  );
}

function Write({ open }: { open: boolean }) {
  const sent = useStore(visit.store, (s) => s.sent);
  const [name, setName] = useState(me.name);
  const [picture, setPicture] = useState(me.picture);
  const [text, setText] = useState('');
  const [trouble, setTrouble] = useState('');
  const introduce = (as: string, with_: string | null) => {
    keepMe({ name: as, picture: with_ });
    visit.introduce(as, with_);
  };
  useEffect(() => {
    if (sent?.refused === null) setText('');
  }, [sent]);
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        setTrouble('');
        if (name.trim() === '') return setTrouble('Say what you are called first.');
        if (text.trim() !== '' && !visit.comment(text)) setTrouble('The line is down: your words stay here, send them again in a moment.');
        return undefined;
      }}
    >
      <h2 className="text-xl font-semibold">Write to the show</h2>
      <div className="flex items-center gap-2">
        <label className="relative flex h-14 w-14 shrink-0 cursor-pointer items-center justify-center overflow-hidden rounded-full border border-line bg-raised text-[13px]">
          {picture ? <img alt="Your picture" src={`data:image/jpeg;base64,${picture}`} className="h-full w-full" /> : 'Picture'}
          <input
            type="file"
            accept="image/*"
            aria-label="Your picture"
            className="absolute inset-0 cursor-pointer opacity-0"
            onChange={(e) => {
              const file = e.target.files?.[0];
              if (!file) return;
              smallPicture(file).then(
                (made) => {
                  setPicture(made);
                  introduce(name, made);
                },
                (error: unknown) => setTrouble(error instanceof Error ? error.message : String(error)),
              );
            }}
          />
        </label>
        <input
          aria-label="Your name"
          placeholder="Your name"
          className={FIELD}
          maxLength={LONGEST_SENDER_NAME}
          value={name}
          onChange={(e) => setName(e.target.value)}
          onBlur={() => introduce(name.trim(), picture)}
        />
      </div>
      <textarea
        aria-label="Your comment"
        placeholder={open ? 'Your comment' : 'No comments are taken now.'}
        className={`${FIELD} h-28 p-3`}
        maxLength={LONGEST_COMMENT}
        disabled={!open}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <div className="flex items-center gap-3">
        <button type="submit" className={PRESS} disabled={!open}>
          Send
        </button>
        <span className="figures text-muted">{LONGEST_COMMENT - text.length}</span>
        <p role="status" className={sent?.refused || trouble ? 'text-caution' : 'text-muted'}>
          {trouble || (sent ? (sent.refused === null ? 'Sent. The crew reads it.' : REFUSALS[sent.refused]) : '')}
        </p>
      </div>
      <p className="text-muted">What you write may be shown and recorded, with your name and picture.</p>
    </form>
  );
}

const LINES = {
  opening: 'Looking for the show…',
  waiting: 'The show is not open yet. This page goes on by itself when it is.',
  lost: 'The line is down. This page tries again by itself.',
  open: '',
  ended: '',
};

function Page() {
  const { line, message, page, answers, chosen } = useStore(visit.store);
  const words = message || LINES[line];
  return (
    <main className="mx-auto flex max-w-xl flex-col gap-6 p-4" data-line={line}>
      <h1 className="text-2xl font-bold">{page?.show ?? 'Audience'}</h1>
      {words !== '' && (
        <p role="alert" className={line === 'opening' ? 'text-muted' : 'bg-caution p-2 font-semibold text-deep'}>
          {words}
        </p>
      )}
      {page && line !== 'ended' && (
        <>
          {page.poll && <Poll poll={page.poll} mine={chosen[page.poll.key]} />}
          <Write open={page.open} />
          {answers.length > 0 && (
            <section aria-label="Answers" className="flex flex-col gap-2">
              <h2 className="text-xl font-semibold">The crew answers</h2>
              {[...answers].reverse().map(({ text, answer }, i) => (
                <p key={i} className="border-l-4 border-straw bg-panel p-3">
                  <span className="block break-words text-muted">{text}</span>
                  <span className="block break-words text-lg">{answer}</span>
                </p>
              ))}
            </section>
          )}
        </>
      )}
    </main>
  );
}

const root = document.getElementById('root');
if (root)
  createRoot(root).render(
    <StrictMode>
      <Page />
    </StrictMode>,
  );

/** Comments of audience and guests: what has come in, what was chosen, and what is on air. */
import clsx from 'clsx';
import { ArrowDown, ArrowUp, Ban, CornerDownLeft, EyeOff, Eye, ListPlus, Pencil, Star, X } from 'lucide-react';
import { memo, useEffect, useRef, useState } from 'react';
import { type Comment } from '#core/audience/air';
import { LONGEST_COMMENT } from '#core/audience/limits';
import { shownComment } from '#core/audience/shown';
import { type QueuedComment } from '#core/audience/document';
import { useLive, useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { HoldButton } from '../parts/hold-button';
import { IconButton } from '../parts/icon-button';
import { COMMENT_LISTS, type CommentList, listed, useGuestsRoom } from './room-state';

const time = (at: number) => new Date(at).toLocaleTimeString('en-GB');

const LIST_WORDS: Record<CommentList, string> = { new: 'New', star: 'Star', held: 'Held back', hidden: 'Hidden' };
const EMPTY: Record<CommentList, string> = {
  new: 'What audience and guests write stands here.',
  star: 'No comment has a star.',
  held: 'Nothing is held back. Words that hold a comment back are set below.',
  hidden: 'Nothing is hidden.',
};
/** Comments that are drawn: nobody reads further down. */
const MOST_DRAWN = 80;

function Answer({ comment, onDone }: { comment: Comment; onDone: () => void }) {
  const send = useSend();
  const [text, setText] = useState(comment.answer);
  return (
    <form
      className="flex gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (send('comment.answer', { comment: comment.id, text: text.trim() })) onDone();
      }}
    >
      <input
        autoFocus
        aria-label={`Answer to ${comment.name}`}
        placeholder="Only they read it"
        className="min-w-0 flex-1"
        maxLength={LONGEST_COMMENT}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => e.key === 'Escape' && onDone()}
      />
      <Button type="submit">Answer</Button>
    </form>
  );
}

const Row = memo(function Row({ comment, chosen }: { comment: Comment; chosen: boolean }) {
  const send = useSend();
  const [answers, setAnswers] = useState(false);
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (chosen) row.current?.scrollIntoView({ block: 'nearest' });
  }, [chosen]);
  const { id, name, text, at, held, star, hidden, answer, origin, from } = comment;
  return (
    <li ref={row} data-comment={id} className={clsx('border-b border-line px-2 py-1.5', chosen && 'bg-raised')}>
      <button
        type="button"
        className="block w-full text-left"
        aria-pressed={chosen}
        aria-label={`Choose the comment of ${name}: ${text}`}
        onClick={() => useGuestsRoom.setState({ comment: id })}
      >
        <span className="font-semibold">{name}</span> <span className="figures text-[13px] text-muted">{time(at)}</span>
        {origin === 'guest' && <span className="ml-1 text-[13px] text-straw">guest</span>}
        {held !== '' && <span className="ml-1 text-[13px] text-caution">held back: {held}</span>}
        <span dir="auto" className="block break-words">
          {text}
        </span>
        {answer !== '' && <span className="block text-[13px] break-words text-muted">Answered: {answer}</span>}
      </button>
      {answers ? (
        <Answer comment={comment} onDone={() => setAnswers(false)} />
      ) : (
        <div className="mt-1 flex items-center gap-1">
          <Button aria-label={`Queue the comment of ${name}`} onClick={() => send('comment.queue', { comment: id })}>
            <ListPlus size={14} /> Queue
          </Button>
          <IconButton label={`Star for ${name}`} pressed={star} onClick={() => send('comment.star', { comment: id, on: !star })}>
            <Star size={14} fill={star ? 'currentColor' : 'none'} />
          </IconButton>
          <IconButton label={`Answer ${name}`} onClick={() => setAnswers(true)}>
            <CornerDownLeft size={14} />
          </IconButton>
          <IconButton
            label={hidden ? `Bring the comment of ${name} back` : `Hide the comment of ${name}`}
            onClick={() => send('comment.hide', { comment: id, on: !hidden })}
          >
            {hidden ? <Eye size={14} /> : <EyeOff size={14} />}
          </IconButton>
          <span className="flex-1" />
          <HoldButton
            look="quiet"
            aria-label={`Ban ${name}`}
            title="Hold: nothing more is taken of whoever sent it, and the rest of theirs is hidden"
            onHeld={() => send('comment.ban', { from, on: true })}
          >
            <Ban size={14} /> Ban
          </HoldButton>
        </div>
      )}
    </li>
  );
});

function Queued({ comment, place, last, up }: { comment: QueuedComment; place: number; last: boolean; up: boolean }) {
  const send = useSend();
  const [edits, setEdits] = useState(false);
  const [text, setText] = useState(comment.text);
  const { id, name, written, shown } = comment;
  const changed = comment.text !== written;
  return (
    <li data-queued={id} className={clsx('flex gap-1.5 border-b border-line px-2 py-1.5', shown && !up && 'text-muted')}>
      <div className="min-w-0 flex-1">
        <span className="font-semibold">{name}</span>
        {up && <span className="figures ml-1.5 bg-air px-1 text-[13px] font-semibold text-deep">AIR</span>}
        {changed && (
          <span className="ml-1.5 text-[13px] text-caution" title={`As it was written: ${written}`}>
            changed by the crew
          </span>
        )}
        {edits ? (
          <form
            className="flex gap-1"
            onSubmit={(e) => {
              e.preventDefault();
              if (text.trim() === '' || send('comment.edit', { comment: id, text: text.trim() })) setEdits(false);
            }}
          >
            <input
              autoFocus
              aria-label={`What is shown of the comment of ${name}`}
              className="min-w-0 flex-1"
              maxLength={LONGEST_COMMENT}
              value={text}
              onChange={(e) => setText(e.target.value)}
              onKeyDown={(e) => e.key === 'Escape' && setEdits(false)}
            />
            <Button type="submit">Change</Button>
          </form>
        ) : (
          <span dir="auto" className="block break-words">
            {comment.text}
          </span>
        )}
      </div>
      <div className="flex shrink-0 items-start gap-0.5">
        <Button
          look={up ? 'plain' : 'straw'}
          aria-label={`Show the comment of ${name}`}
          onClick={() => send('comment.show', { comment: id })}
        >
          Show
        </Button>
        <IconButton
          label={`Earlier: the comment of ${name}`}
          unusable={place === 0 ? 'It is the first.' : null}
          onClick={() => send('comment.move', { comment: id, index: place - 1 })}
        >
          <ArrowUp size={14} />
        </IconButton>
        <IconButton
          label={`Later: the comment of ${name}`}
          unusable={last ? 'It is the last.' : null}
          onClick={() => send('comment.move', { comment: id, index: place + 1 })}
        >
          <ArrowDown size={14} />
        </IconButton>
        <IconButton
          label={`Change what is shown of ${name}`}
          onClick={() => {
            setText(comment.text);
            setEdits(!edits);
          }}
        >
          <Pencil size={14} />
        </IconButton>
        <IconButton label={`Take the comment of ${name} out of the queue`} onClick={() => send('comment.unqueue', { comment: id })}>
          <X size={14} />
        </IconButton>
      </div>
    </li>
  );
}

function Queue() {
  const send = useSend();
  const queue = useShow(({ desk }) => desk.show.audience.queue);
  const ready = useShow(({ desk: { show } }) => show.audience.graphicId !== null && show.audience.laneId !== null);
  const up = useLive(({ desk, frame }) => shownComment(desk, frame));
  return (
    <section aria-label="Queue of comments" className="border-b border-line">
      <div className="flex flex-wrap items-center gap-1 px-2 py-1.5">
        <h3 className="font-semibold">To be shown</h3>
        <span className="figures text-muted">{queue.filter((c) => !c.shown).length}</span>
        <span className="flex-1" />
        {ready ? (
          <>
            <Button look="straw" keyFor="comments.next" onClick={() => send('comment.show')}>
              Show next
            </Button>
            <Button keyFor="comments.out" unusable={up === null ? 'No comment is on air.' : null} onClick={() => send('comment.out')}>
              Out
            </Button>
            <Button
              unusable={queue.some((c) => c.shown && c.id !== up) ? null : 'None was shown.'}
              title="Takes those that were shown out of the queue"
              onClick={() => send('comment.clear')}
            >
              Clear shown
            </Button>
          </>
        ) : (
          <Button
            look="straw"
            title="Adds a sheet of comments, a graphic for them, and chooses a lane"
            onClick={() => send('audience.setUp', { what: 'comments' })}
          >
            Set up a graphic
          </Button>
        )}
      </div>
      <ul className="max-h-64 overflow-auto">
        {queue.map((c, i) => (
          <Queued key={c.id} comment={c} place={i} last={i === queue.length - 1} up={c.id === up} />
        ))}
      </ul>
      {queue.length === 0 && <p className="px-2 pb-2 text-muted">Comments that are chosen stand here, in the order of showing.</p>}
    </section>
  );
}

export function Comments() {
  const inbox = useShow(({ desk }) => desk.air.audience.inbox);
  const queue = useShow(({ desk }) => desk.show.audience.queue);
  const { comment, list } = useGuestsRoom();
  const queued = new Set(queue.map((c) => c.id));
  const rows = listed(inbox, queued, list);
  return (
    <section aria-label="Comments">
      <Queue />
      <div className="flex flex-wrap gap-1 px-2 py-1.5" role="group" aria-label="Which comments">
        {COMMENT_LISTS.map((of) => (
          <Button key={of} pressed={list === of} onClick={() => useGuestsRoom.setState({ list: of })}>
            {LIST_WORDS[of]} <span className="figures text-muted">{listed(inbox, queued, of).length}</span>
          </Button>
        ))}
      </div>
      <ul aria-label={LIST_WORDS[list]}>
        {rows.slice(0, MOST_DRAWN).map((c) => (
          <Row key={c.id} comment={c} chosen={c.id === comment} />
        ))}
      </ul>
      {rows.length === 0 && <p className="p-2 text-muted">{EMPTY[list]}</p>}
      {rows.length > MOST_DRAWN && <p className="p-2 text-muted">and {rows.length - MOST_DRAWN} older ones</p>}
    </section>
  );
}

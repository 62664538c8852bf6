/** Polls: what is asked, open and close, and how they stand. */
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { type Poll } from '#core/audience/document';
import { shares } from '#core/audience/rows';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { HoldButton } from '../parts/hold-button';
import { IconButton } from '../parts/icon-button';

function AddPoll() {
  const send = useSend();
  const [open, setOpen] = useState(false);
  const [question, setQuestion] = useState('');
  const [choices, setChoices] = useState('');
  if (!open)
    return (
      <Button className="m-2" onClick={() => setOpen(true)}>
        <Plus size={14} /> Poll
      </Button>
    );
  return (
    <form
      className="flex flex-col gap-1 p-2"
      onSubmit={(e) => {
        e.preventDefault();
        const lines = choices.split('\n').filter((c) => c.trim() !== '');
        if (!send('poll.add', { question: question.trim(), choices: lines })) return;
        setQuestion('');
        setChoices('');
        setOpen(false);
      }}
    >
      <input
        autoFocus
        aria-label="Question"
        placeholder="Question"
        maxLength={160}
        value={question}
        onChange={(e) => setQuestion(e.target.value)}
      />
      <textarea
        aria-label="Choices, one on each line"
        placeholder="Choices, one on each line, two to eight"
        rows={4}
        value={choices}
        onChange={(e) => setChoices(e.target.value)}
      />
      <div className="flex gap-1">
        <Button look="straw" type="submit">
          Add poll
        </Button>
        <Button onClick={() => setOpen(false)}>Leave</Button>
      </div>
    </form>
  );
}

function PollItem({ poll }: { poll: Poll }) {
  const send = useSend();
  const now = useShow(({ desk }) => desk.air.audience.poll);
  const mine = now?.id === poll.id ? now : null;
  const votes = poll.choices.map((c) => c.votes);
  const [all, parts] = [votes.reduce((sum, v) => sum + v, 0), shares(votes)];
  return (
    <li className="flex flex-col gap-1 border-b border-line p-2" data-poll={poll.id}>
      <div className="flex items-start gap-1">
        <p className="min-w-0 flex-1 font-semibold break-words">{poll.question}</p>
        {mine?.open && <span className="figures shrink-0 bg-air px-1 text-[13px] font-semibold text-deep">OPEN</span>}
        <IconButton label={`Remove the poll ${poll.question}`} onClick={() => send('poll.remove', { poll: poll.id })}>
          <Trash2 size={14} />
        </IconButton>
      </div>
      <ul>
        {poll.choices.map((choice, i) => (
          <li key={i} className="relative flex items-center gap-2 px-1.5 py-0.5">
            <span aria-hidden className="absolute inset-y-0.5 left-0 bg-raised" style={{ width: `${parts[i] ?? 0}%` }} />
            <span className="relative min-w-0 flex-1 truncate" title={choice.text}>
              {choice.text}
            </span>
            <span className="figures relative text-muted">{choice.votes}</span>
            <span className="figures relative w-12 text-right">{parts[i]} %</span>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-1">
        {mine?.open ? (
          <Button look="straw" onClick={() => send('poll.close')}>
            Close
          </Button>
        ) : (
          <Button onClick={() => send('poll.open', { poll: poll.id })}>{mine || all > 0 ? 'Open again' : 'Open'}</Button>
        )}
        {mine && (
          <>
            <label className="flex items-center gap-1">
              <input type="checkbox" checked={mine.results} onChange={(e) => send('poll.results', { on: e.target.checked })} /> they see
              results
            </label>
            <Button title="Off the page of the audience" onClick={() => send('poll.away')}>
              Away
            </Button>
          </>
        )}
        <span className="flex-1" />
        {all > 0 && !mine?.open && (
          <HoldButton look="air" title="Hold: everybody may vote anew" onHeld={() => send('poll.reset', { poll: poll.id })}>
            Take votes away
          </HoldButton>
        )}
        <span className="figures text-muted">{all === 1 ? '1 vote' : `${all} votes`}</span>
      </div>
    </li>
  );
}

export function Polls() {
  const send = useSend();
  const polls = useShow(({ desk }) => desk.show.audience.polls);
  const ready = useShow(({ desk: { show } }) => show.sheets.some((s) => s.source.kind === 'poll'));
  return (
    <section aria-label="Polls">
      <div className="flex items-center gap-1 px-2 pt-2">
        <span className="flex-1" />
        {!ready && polls.length > 0 && (
          <Button
            title="Adds a sheet of the poll, and a graphic with bars that grow: take it to air like any graphic"
            onClick={() => send('audience.setUp', { what: 'poll' })}
          >
            Set up a graphic
          </Button>
        )}
      </div>
      <ul>
        {polls.map((p) => (
          <PollItem key={p.id} poll={p} />
        ))}
      </ul>
      {polls.length === 0 && (
        <p className="px-2 text-muted">The audience answers a question on their page; how it stands goes into a graphic and a sheet.</p>
      )}
      <AddPoll />
    </section>
  );
}

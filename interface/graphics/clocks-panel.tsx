/** Clocks, large: start, pause, reset, set, seconds more or less. */
import { useState } from 'react';
import { Pause, Play, Plus, RotateCcw, Trash2 } from 'lucide-react';
import { type Clock, CLOCK_ENDS, CLOCK_KINDS } from '#core/graphics/document';
import { parseLength } from '#core/time/duration';
import { formatClock, readClock } from '#core/graphics/clocks';
import { useLive, useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { NumberField } from '../parts/number-field';
import { region } from '../parts/region';
import { Line } from '../parts/fields';

const KIND_WORDS: Record<Clock['kind'], string> = { down: 'down', up: 'up', until: 'to a time of day', day: 'time of day' };
const END_WORDS: Record<Clock['atEnd'], string> = {
  stop: 'stops at its end',
  below: 'goes on below zero',
  hide: 'hides what shows it',
  show: 'shows words',
};

const two = (n: number) => String(n).padStart(2, '0');

/** What a clock says now, in large figures. */
export function ClockFace({ clock, className }: { clock: Clock; className?: string }) {
  const { text, last } = useLive(({ desk: { show, air }, frame }) => {
    const { seconds, down } = readClock(clock, air.graphics, frame, show.rate);
    const format = clock.kind === 'day' || Math.abs(seconds ?? 0) >= 3600 ? 'h:mm:ss' : 'm:ss.t';
    return {
      text: seconds === null ? '–:––' : formatClock(seconds, format, down, show.rate),
      last: down && seconds !== null && seconds <= 10,
    };
  });
  return (
    <output
      aria-label={`${clock.name} says`}
      className={`figures ${last ? 'bg-caution px-1 font-semibold text-deep' : ''} ${className ?? ''}`}
    >
      {text}
    </output>
  );
}

/** What a clock is to say from now on: `1:30`, `90`. */
function SetTo({ clock }: { clock: Clock }) {
  const send = useSend();
  const rate = useShow(({ desk }) => desk.show.rate);
  const [text, setText] = useState('');
  const frames = parseLength(text, rate);
  const wrong = text !== '' && frames === null;
  return (
    <input
      aria-label={`Set ${clock.name} to`}
      aria-invalid={wrong}
      title={wrong ? 'This is no time. Write 1:30, or 90 for seconds.' : 'From now on it says this: 1:30, or 90 for seconds; Enter sets it'}
      placeholder="set to"
      className="figures w-20"
      value={text}
      onChange={(e) => setText(e.target.value)}
      onKeyDown={(e) => {
        if (e.key === 'Escape') setText('');
        if (e.key !== 'Enter' || frames === null) return;
        if (send('clock.setTo', { clock: clock.id, seconds: (frames * rate.den) / rate.num })) setText('');
      }}
    />
  );
}

function ClockCard({ clock }: { clock: Clock }) {
  const send = useSend();
  const running = useShow(({ desk }) => (desk.air.graphics.clocks[clock.id]?.start ?? null) !== null);
  const counted = clock.kind === 'down' || clock.kind === 'up';
  const of = { clock: clock.id };
  const keys = { keyFor: clock.number === null ? '' : 'clock.toggle', keyArgs: { number: clock.number ?? 0 } };
  return (
    <li className="flex flex-col gap-2 border border-line bg-panel p-3">
      <div className="flex items-center gap-1">
        <Line strong label="Name of the clock" value={clock.name} max={60} onSave={(name) => send('clock.set', { ...of, name })} />
        <NumberField
          className="w-14"
          label={`Number of ${clock.name}`}
          min={0}
          max={99}
          value={clock.number ?? 0}
          onCommit={(n) => send('clock.set', { ...of, number: n === 0 ? null : Math.round(n) })}
        />
        <IconButton label={`Remove ${clock.name}`} onClick={() => send('clock.remove', of)}>
          <Trash2 size={14} />
        </IconButton>
      </div>
      <ClockFace clock={clock} className="text-5xl leading-tight" />
      {counted && (
        <div className="flex flex-wrap gap-1">
          <Button
            look={running ? 'plain' : 'straw'}
            className="w-24"
            {...keys}
            aria-label={`${running ? 'Pause' : 'Start'} ${clock.name}`}
            onClick={() => send('clock.toggle', of)}
          >
            {running ? <Pause size={15} /> : <Play size={15} />} {running ? 'Pause' : 'Start'}
          </Button>
          <Button aria-label={`Reset ${clock.name}`} title="Back to its beginning" onClick={() => send('clock.reset', of)}>
            <RotateCcw size={15} /> Reset
          </Button>
          <SetTo clock={clock} />
          {[-10, -1, 1, 10].map((seconds) => (
            <Button
              key={seconds}
              className="figures px-1.5!"
              aria-label={`${clock.name}: ${seconds > 0 ? '+' : '−'}${Math.abs(seconds)} s`}
              onClick={() => send('clock.adjust', { ...of, seconds })}
            >
              {seconds > 0 ? '+' : '−'}
              {Math.abs(seconds)} s
            </Button>
          ))}
        </div>
      )}
      <div className="flex flex-wrap items-center gap-1">
        <select
          aria-label={`Kind of ${clock.name}`}
          value={clock.kind}
          onChange={(e) => send('clock.set', { ...of, kind: e.target.value })}
        >
          {CLOCK_KINDS.map((kind) => (
            <option key={kind} value={kind}>
              {KIND_WORDS[kind]}
            </option>
          ))}
        </select>
        {counted && (
          <NumberField
            className="w-24"
            label={clock.kind === 'down' ? `Length of ${clock.name}` : `Beginning of ${clock.name}`}
            unit="s"
            min={0}
            max={359_999}
            digits={1}
            value={clock.seconds}
            onCommit={(seconds) => send('clock.set', { ...of, seconds })}
          />
        )}
        {clock.kind === 'until' && (
          <input
            type="time"
            step={1}
            aria-label={`Time that ${clock.name} goes to`}
            value={`${two(Math.floor(clock.seconds / 3600) % 24)}:${two(Math.floor(clock.seconds / 60) % 60)}:${two(Math.floor(clock.seconds) % 60)}`}
            onChange={(e) => {
              const [h = 0, m = 0, s = 0] = e.target.value.split(':').map(Number);
              if (e.target.value !== '') send('clock.set', { ...of, seconds: h * 3600 + m * 60 + s });
            }}
          />
        )}
        {clock.kind !== 'day' && clock.kind !== 'up' && (
          <select
            aria-label={`End of ${clock.name}`}
            value={clock.atEnd}
            onChange={(e) => send('clock.set', { ...of, atEnd: e.target.value })}
          >
            {CLOCK_ENDS.map((end) => (
              <option key={end} value={end}>
                {END_WORDS[end]}
              </option>
            ))}
          </select>
        )}
        {clock.atEnd === 'show' && clock.kind !== 'day' && clock.kind !== 'up' && (
          <span className="min-w-40 flex-1">
            <Line
              empty
              label={`Words at the end of ${clock.name}`}
              value={clock.endWords}
              max={80}
              onSave={(endWords) => send('clock.set', { ...of, endWords })}
            />
          </span>
        )}
      </div>
    </li>
  );
}

/** All clocks of the show. */
export function ClocksPanel() {
  const send = useSend();
  const clocks = useShow(({ desk }) => desk.show.graphics.clocks);
  return (
    <section {...region('clocks', 'Clocks')} className="min-h-0 flex-1 overflow-y-auto p-2">
      <Button className="mb-2" onClick={() => send('clock.add')}>
        <Plus size={15} /> Clock
      </Button>
      {clocks.length === 0 && <p className="text-muted">No clocks yet. Add one, then let a clock element of a graphic show it.</p>}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(340px,1fr))] gap-2">
        {clocks.map((clock) => (
          <ClockCard key={clock.id} clock={clock} />
        ))}
      </ul>
    </section>
  );
}

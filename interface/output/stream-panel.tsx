/** The stream: its destination, settings, start and stop, and how it fares. */
import { useState } from 'react';
import { formatDuration } from '#core/time/duration';
import { type StreamState } from '#engine/output/messages';
import { useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { HoldButton } from '../parts/hold-button';
import { BitrateField } from './bitrate-field';
import { OutputSelect } from './output-select';
import { bitrateText, Figure } from './figure';

const WORDS: Record<StreamState, string> = { connecting: 'connecting', live: 'live', retrying: 'away, trying again', ending: 'ending' };

function TextSetting({
  label,
  value,
  disabled,
  secret,
  onCommit,
  className,
}: {
  label: string;
  value: string;
  disabled: boolean;
  secret?: boolean;
  onCommit: (value: string) => boolean;
  className?: string;
}) {
  const [text, setText] = useState(value);
  return (
    <label className={`flex flex-col gap-0.5 ${className ?? ''}`}>
      <span className="text-xs text-muted">{label}</span>
      <input
        type={secret ? 'password' : 'text'}
        autoComplete="off"
        disabled={disabled}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={() => text !== value && !onCommit(text) && setText(value)}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      />
    </label>
  );
}

export function StreamPanel() {
  const send = useSend();
  const { settings, on, status, shared } = useShow(({ desk: { show, air }, encoder }) => ({
    settings: show.output.stream,
    on: air.stream !== null,
    status: encoder.stream,
    shared: encoder.encodes === 1 && encoder.recording !== null && encoder.stream !== null,
  }));
  const tone = status?.state === 'retrying' ? 'caution' : status?.state === 'live' ? 'next' : undefined;
  const local = /^\/ingest\/([a-z0-9-]+)$/.exec(settings.url)?.[1];
  return (
    <section aria-label="Stream" className="border-t border-line pt-4">
      <div className="flex items-center justify-between">
        <h2 className="text-lg font-semibold">Stream</h2>
        {on ? (
          <HoldButton look="air" onHeld={() => send('output.stopStream')}>
            Hold to stop
          </HoldButton>
        ) : (
          <Button look="straw" onClick={() => send('output.startStream')}>
            Start streaming
          </Button>
        )}
      </div>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <TextSetting
          key={`url ${settings.url}`}
          className="min-w-52 flex-1"
          label="Destination (CMAF by HTTP PUT)"
          value={settings.url}
          disabled={on}
          onCommit={(url) => send('output.setStream', { url: url.trim() })}
        />
        <TextSetting
          key={`key ${settings.key}`}
          className="w-28"
          secret
          label="Key"
          value={settings.key}
          disabled={on}
          onCommit={(key) => send('output.setStream', { key })}
        />
        <OutputSelect
          label="Picture of the stream"
          disabled={on}
          value={settings.outputId}
          onChange={(outputId) => send('output.setStream', { outputId })}
        />
        <BitrateField
          hint="As much as the line carries with room to spare: 2 to 4 Mb/s suit 1280 × 720"
          most={50}
          megabits={settings.megabits}
          onCommit={(megabits) => send('output.setStream', { megabits })}
        />
      </div>
      {local && (
        <p className="mt-1 text-xs text-muted">
          This is the streaming site on this server.{' '}
          <a className="text-straw underline" href={`/watch?stream=${local}`} target="_blank" rel="noreferrer">
            Watch it
          </a>
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-5">
        <Figure label="state" value={on ? WORDS[status?.state ?? 'connecting'] : 'off'} tone={tone} />
        <Figure label="on for" value={formatDuration(status?.seconds ?? 0)} />
        <Figure label="bitrate" value={bitrateText(status?.bitrate ?? 0)} />
        <Figure
          label="waiting"
          value={`${(status?.queuedSeconds ?? 0).toFixed(0)} s`}
          tone={(status?.queuedSeconds ?? 0) > 8 ? 'caution' : undefined}
        />
        <Figure label="lost" value={`${(status?.lostSeconds ?? 0).toFixed(0)} s`} tone={status?.lostSeconds ? 'air' : undefined} />
        <Figure label="segments dropped" value={String(status?.dropped ?? 0)} tone={status?.dropped ? 'air' : undefined} />
        <Figure label="reconnects" value={String(status?.reconnects ?? 0)} />
      </div>
      {status?.trouble && (
        <p role="status" className="mt-2 text-caution">
          {status.trouble} Up to a minute is kept and sent when it is back.
        </p>
      )}
      {shared && <p className="mt-1 text-xs text-muted">One encode serves both recording and stream.</p>}
    </section>
  );
}

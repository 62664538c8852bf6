/** What a message says: with holes, what it comes to now, its faults where they stand, and a sweep over one of its numbers. */
import { useState } from 'react';
import { type Device, type DeviceMessage, METHODS, MOST_PATH, MOST_SAID } from '#core/devices/document';
import { fillHoles, HOLES } from '#core/devices/holes';
import { sayProblem } from '#core/devices/problems';
import { MOST_SWEPT, numbersIn, saidWords, sweptSaid } from '#core/devices/said';
import { framesPerSecond } from '#core/time/rate';
import { useLive, useSend, useSendAll, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { Check, Choice, Line, Num } from '../parts/fields';
import { Popover } from '../parts/popover';
import { useDraft } from '../parts/use-draft';

const TEXT_LABELS: Record<Device['settings']['kind'], string> = {
  http: 'Body',
  tcp: 'Text',
  udp: 'Text',
  websocket: 'Text',
  osc: 'Arguments',
  midi: 'Message',
};
const TEXT_HINTS: Partial<Record<Device['settings']['kind'], string>> = {
  osc: '1 0.5 "two words" true f:3',
  midi: 'note 60 127 · control 7 64 channel 2 · 90 3c 7f',
};

/** What it comes to at this moment, or what is wrong with it. */
function Comes({ device, path, text }: { device: Device; path: string; text: string }) {
  const client = useShowClient();
  const desk = useShow(({ desk: d }) => d);
  useLive(({ frame, desk: d }) => Math.floor((frame * 2) / framesPerSecond(d.show.rate)));
  const [p, t] = [path, text].map((words) => fillHoles(words, desk, client.state.frame, '1')) as [
    ReturnType<typeof fillHoles>,
    ReturnType<typeof fillHoles>,
  ];
  const faults = [...p.faults.map((f) => ({ ...f, in: 'path' })), ...t.faults.map((f) => ({ ...f, in: 'text' }))];
  const out = { method: 'POST', path: p.text, text: t.text };
  const problem = faults.length > 0 ? null : sayProblem(device.settings.kind, out);
  return (
    <output className="block text-[13px]" aria-live="off">
      {faults.map((f, i) => (
        <span key={i} className="block text-caution">
          Character {f.at + 1} of the {f.in}: {f.message}.
        </span>
      ))}
      {problem !== null && <span className="block text-caution">{problem}</span>}
      {faults.length === 0 && problem === null && (
        <span className="figures block truncate text-next">{saidWords(device.settings.kind, out)}</span>
      )}
    </output>
  );
}

function Sweep({ device, message }: { device: Device; message: DeviceMessage }) {
  const sendAll = useSendAll();
  const numbers = numbersIn(message);
  const [at, setAt] = useState(0);
  const [range, setRange] = useState<readonly [number, number, number]>([1, 8, 1]);
  const number = numbers[Math.min(at, numbers.length - 1)];
  const swept = number
    ? sweptSaid(message, number, ...range).filter((m) => saidWords(device.settings.kind, m) !== saidWords(device.settings.kind, message))
    : [];
  return (
    <Popover
      label="Sweep"
      align="end"
      trigger={
        <Button title="As many messages as one of its numbers has values" unusable={number ? null : 'There is no number in it.'}>
          Sweep…
        </Button>
      }
    >
      <div className="flex w-72 flex-col gap-2">
        <Choice
          label="Which number"
          value={String(Math.min(at, numbers.length - 1))}
          all={numbers.map((n, i) => [String(i), `${n.words}, in the ${n.in}`] as const)}
          onChange={(i) => setAt(Number(i))}
        />
        <div className="grid grid-cols-3 gap-1.5">
          {(['From', 'To', 'Step'] as const).map((label, i) => (
            <Num
              key={label}
              label={label}
              digits={3}
              min={i === 2 ? 0.001 : -100_000}
              max={100_000}
              value={range[i] ?? 0}
              onCommit={(value) => setRange(range.map((r, j) => (j === i ? value : r)) as unknown as typeof range)}
            />
          ))}
        </div>
        <p className="figures max-h-24 overflow-y-auto text-[13px] text-muted">
          {swept.slice(0, 6).map((m) => (
            <span key={m.name + m.path + m.text} className="block truncate">
              {saidWords(device.settings.kind, m)}
            </span>
          ))}
          {swept.length > 6 && '…'}
        </p>
        <Button
          look="straw"
          unusable={swept.length > 0 ? null : 'It has no other values.'}
          title={`At most ${MOST_SWEPT} at once`}
          onClick={() =>
            sendAll(
              swept.map(({ name, method, path, text, follows }) => ({
                type: 'message.add',
                args: { device: device.id, name, method, path, text, follows },
              })),
            )
          }
        >
          Make {swept.length} messages
        </Button>
      </div>
    </Popover>
  );
}

export function MessageForm({ device, message }: { device: Device; message: DeviceMessage }) {
  const send = useSend();
  const [text, setText] = useDraft(message.text);
  const { kind } = device.settings;
  const set = (change: object) => send('message.set', { message: message.id, ...change });
  return (
    <section aria-label="Message" className="flex shrink-0 flex-col gap-1.5 border-t border-line p-2">
      <div className="flex items-end gap-2">
        <Line showLabel strong max={80} label="Name of the message" value={message.name} onSave={(name) => set({ name })} />
        {kind === 'http' && (
          <Choice label="Method" value={message.method} all={METHODS.map((m) => [m, m] as const)} onChange={(method) => set({ method })} />
        )}
        {(kind === 'http' || kind === 'osc') && (
          <Line
            showLabel
            empty
            max={MOST_PATH}
            label={kind === 'http' ? 'Path' : 'OSC address'}
            value={message.path}
            onSave={(path) => set({ path })}
          />
        )}
      </div>
      <label className="flex flex-col gap-0.5">
        <span className="text-xs text-muted">{TEXT_LABELS[kind]}</span>
        <textarea
          aria-label={TEXT_LABELS[kind]}
          className="figures w-full"
          rows={2}
          maxLength={MOST_SAID}
          spellCheck={false}
          placeholder={TEXT_HINTS[kind]}
          value={text}
          onChange={(e) => setText(e.target.value)}
          onBlur={() => text !== message.text && set({ text })}
        />
      </label>
      <Comes device={device} path={message.path} text={text} />
      <div className="flex flex-wrap items-center gap-2">
        <Popover label="Holes" align="start" trigger={<Button title="What can be filled in at the moment of sending">Holes…</Button>}>
          <ul className="flex w-80 flex-col gap-1">
            {Object.values(HOLES).map((hole) => (
              <li key={hole.form}>
                <button
                  type="button"
                  className="w-full text-left text-sm hover:text-straw"
                  onClick={() => {
                    setText(`${text}${hole.form}`);
                    set({ text: `${text}${hole.form}` });
                  }}
                >
                  <span className="figures">{hole.form}</span> <span className="text-muted">{hole.about}</span>
                </button>
              </li>
            ))}
          </ul>
        </Popover>
        <Check label="sent by itself when what its holes say changes" on={message.follows} onChange={(follows) => set({ follows })} />
        <span className="ml-auto flex gap-1">
          <Sweep device={device} message={message} />
          <Button look="straw" title="Send it now" onClick={() => send('device.send', { message: message.id })}>
            Send
          </Button>
        </span>
      </div>
    </section>
  );
}

/** Where a device is and how it answers, and its messages. */
import { useEffect, useState } from 'react';
import { CopyPlus, Plus, Send, Trash2 } from 'lucide-react';
import { rightSettings } from '#core/devices/address';
import { CARRIERS, type Device, type DeviceSettings, ENDINGS } from '#core/devices/document';
import { saidWords } from '#core/devices/said';
import { type MidiPortNames } from '#engine/devices/midi-ports';
import { say } from '../client/say';
import { useSend, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { Check, Choice, Line, Num } from '../parts/fields';
import { KIND_WORDS, reachWords } from './device-list';
import { MessageForm } from './message-form';
import { setAutomationRoom, useAutomationRoom } from './room-state';

const ENDING_WORDS: Record<(typeof ENDINGS)[number], string> = { lf: 'LF', crlf: 'CR LF', cr: 'CR', nul: 'NUL', none: 'none' };
const CARRIER_WORDS: Record<(typeof CARRIERS)[number], string> = {
  udp: 'UDP packets',
  'tcp-length': 'TCP, lengths (1.0)',
  'tcp-slip': 'TCP, SLIP (1.1)',
};

function MidiField({ port, onChange }: { port: string; onChange: (port: string) => void }) {
  const { devices } = useShowClient();
  const [names, setNames] = useState<MidiPortNames>({ outputs: [], inputs: [] });
  useEffect(() => {
    let gone = false;
    void devices.midiPorts().then((found) => !gone && setNames(found));
    return () => {
      gone = true;
    };
  }, [devices]);
  const all = [...new Set([port, ...names.outputs, ...names.inputs])].filter(Boolean);
  return (
    <Choice
      label={all.length === 0 ? 'Port: none is connected' : 'Port'}
      value={port}
      all={[['', '– choose'] as const, ...all.map((n) => [n, n] as const)]}
      onChange={onChange}
    />
  );
}

/** The fields of where it is. What is typed is put right as soon as it is left, and what was done is said. */
function PlaceFields({ settings, onChange }: { settings: DeviceSettings; onChange: (settings: DeviceSettings) => void }) {
  const set = (change: object) => {
    const righted = rightSettings({ ...settings, ...change });
    if (!righted.ok) return void say.caution(righted.message);
    if (righted.done.length > 0) say.good(`Put right: ${righted.done.join(', ')}.`);
    return onChange(righted.settings);
  };
  switch (settings.kind) {
    case 'http':
    case 'websocket':
      return <Line showLabel max={2000} label="Address" value={settings.address} onSave={(address) => set({ address })} />;
    case 'midi':
      return <MidiField port={settings.port} onChange={(port) => set({ port })} />;
    default:
      return (
        <>
          <Line showLabel max={253} label="Host" value={settings.host} onSave={(host) => set({ host })} />
          <Num className="w-28" label="Port" digits={0} min={1} max={65_535} value={settings.port} onCommit={(port) => set({ port })} />
          {settings.kind === 'tcp' && (
            <Choice
              label="A text ends with"
              value={settings.ending}
              all={ENDINGS.map((e) => [e, ENDING_WORDS[e]] as const)}
              onChange={(ending) => set({ ending })}
            />
          )}
          {settings.kind === 'osc' && (
            <Choice
              label="Carried by"
              value={settings.carrier}
              all={CARRIERS.map((c) => [c, CARRIER_WORDS[c]] as const)}
              onChange={(carrier) => set({ carrier })}
            />
          )}
          {(settings.kind === 'udp' || (settings.kind === 'osc' && settings.carrier === 'udp')) && (
            <Num
              className="w-28"
              label="Heard on (0: any)"
              digits={0}
              min={0}
              max={65_535}
              value={settings.listens ?? 0}
              onCommit={(port) => set({ listens: port === 0 ? null : port })}
            />
          )}
        </>
      );
  }
}

export function DeviceForm({ device }: { device: Device }) {
  const client = useShowClient();
  const send = useSend();
  const status = useShow((s) => s.devices[device.id]);
  const messageId = useAutomationRoom((s) => s.messageId);
  const message = device.messages.find((m) => m.id === messageId);
  const set = (change: object) => send('device.set', { device: device.id, ...change });
  const reach = reachWords(device, status);
  const midi = device.settings.kind === 'midi';
  const add = () => {
    const done = client.dispatch({ type: 'message.add', args: { device: device.id } });
    if (done.ok) setAutomationRoom({ messageId: String(done.result.id) });
    else say.caution(done.error.message);
  };
  const duplicate = () => {
    const done = message && client.dispatch({ type: 'message.duplicate', args: { messages: [message.id] } });
    if (done?.ok) setAutomationRoom({ messageId: (done.result.ids as string[])[0] ?? null });
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <section aria-label="Device" className="flex shrink-0 flex-col gap-2 border-b border-line p-2">
        <div className="flex items-end gap-2">
          <Line showLabel strong max={60} label="Name of the device" value={device.name} onSave={(name) => set({ name })} />
          <span className="pb-1.5 text-sm text-muted">{KIND_WORDS[device.settings.kind]}</span>
          <Button
            look="quiet"
            aria-label="Remove this device"
            title="Remove this device and its messages"
            onClick={() => send('device.remove', { device: device.id })}
          >
            <Trash2 size={15} />
          </Button>
        </div>
        <div className="flex flex-wrap items-end gap-2">
          <PlaceFields settings={device.settings} onChange={(settings) => set({ settings })} />
        </div>
        {!midi && (
          <div className="flex flex-wrap items-end gap-3">
            <Check label="it answers" on={device.answers} onChange={(answers) => set({ answers })} />
            <Num
              className="w-28"
              label="Waits at most (s)"
              min={0.1}
              max={30}
              value={device.waitSeconds}
              onCommit={(waitSeconds) => set({ waitSeconds })}
            />
            <Num
              className="w-28"
              label="Tried again"
              digits={0}
              min={0}
              max={5}
              value={device.retries}
              onCommit={(retries) => set({ retries })}
            />
          </div>
        )}
        <p className="text-sm" role="status" aria-label="How it stands">
          <span className={`figures ${reach.tone}`}>{reach.words}</span>
          {status && status.message !== '' && <span className="text-caution"> {status.message}</span>}
          {status && status.waiting > 0 && <span className="text-muted"> · {status.waiting} wait</span>}
          {status?.last && (
            <span className={status.last.ok ? 'text-muted' : 'text-caution'}>
              {' '}
              · last “{status.last.words.slice(0, 60)}”:{' '}
              {status.last.answer === '' ? (status.last.ok ? 'sent' : 'failed') : status.last.answer.slice(0, 80)}
              {status.last.tries > 1 ? `, tried ${status.last.tries} times` : ''}
              {status.last.ok ? ` (${status.last.millis} ms)` : ''}
            </span>
          )}
        </p>
      </section>
      <div className="flex shrink-0 gap-1 border-b border-line p-1.5">
        <Button title="New message" keyFor="devices.message" onClick={add}>
          <Plus size={15} /> Message
        </Button>
        <span className="ml-auto flex">
          <IconButton label="Duplicate this message" unusable={message ? null : 'Choose a message first.'} onClick={duplicate}>
            <CopyPlus size={15} />
          </IconButton>
          <IconButton
            label="Remove this message"
            unusable={message ? null : 'Choose a message first.'}
            onClick={() => message && send('message.remove', { messages: [message.id] })}
          >
            <Trash2 size={15} />
          </IconButton>
        </span>
      </div>
      <ul className="min-h-16 flex-1 overflow-y-auto" aria-label={`Messages of ${device.name}`}>
        {device.messages.map((m) => (
          <li key={m.id} className={`flex items-center border-b border-line ${m.id === messageId ? 'bg-raised' : ''}`}>
            <button
              type="button"
              data-message={m.id}
              aria-pressed={m.id === messageId}
              className="min-w-0 flex-1 px-2 py-1 text-left"
              onClick={() => setAutomationRoom({ messageId: m.id })}
            >
              <span className="flex items-baseline gap-2">
                <span className="truncate">{m.name}</span>
                {m.follows && <span className="text-[13px] whitespace-nowrap text-next">by itself</span>}
              </span>
              <span className="figures block truncate text-[13px] text-muted">
                {saidWords(device.settings.kind, m) || 'says nothing yet'}
              </span>
            </button>
            <Button
              look="quiet"
              className="px-2!"
              aria-label={`Send ${m.name}`}
              title={`Send ${m.name} now`}
              onClick={() => send('device.send', { message: m.id })}
            >
              <Send size={15} />
            </Button>
          </li>
        ))}
        {device.messages.length === 0 && (
          <li className="p-3 text-sm text-muted">No messages yet. Write one, or choose a line of the log and make it one.</li>
        )}
      </ul>
      {message && <MessageForm key={message.id} device={device} message={message} />}
    </div>
  );
}

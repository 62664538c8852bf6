/** Sound devices: what is plugged in where, and their own mixers. */
import { FileDown, FileUp, Plug, Unplug } from 'lucide-react';
import { useEffect, useState } from 'react';
import { say } from '../client/say';
import { useStore } from 'zustand';
import { causeOf } from '#core/schema/cause';
import { type Pair, type Sound } from '#core/sound/document';
import { exportRouting } from '#core/sound/routing-file';
import { type DeviceState } from '#engine/sound/device-board';
import { type SoundDeviceInfo } from '#engine/sound/device-driver';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { FileButton } from '../parts/file-button';
import { saveFile } from '../parts/save-file';
import { useDevices, usePairs } from './use-devices';
import { WaysBack } from './ways-back';

const STATE_WORDS = { opening: 'opening', live: 'plays', lost: 'lost' };

function DeviceNote({ deviceId, side }: { deviceId: string; side: 'input' | 'output' }) {
  const host = useShowClient();
  const state = useStore(host.sound.store, (s): DeviceState | undefined =>
    s.devices.find((d) => d.deviceId === deviceId && d.side === side),
  );
  if (!state) return null;
  const word = side === 'input' && state.state === 'live' ? 'listens' : STATE_WORDS[state.state];
  return (
    <span
      className={`text-[13px] ${state.state === 'lost' ? 'text-air' : state.state === 'live' ? 'text-next' : 'text-muted'}`}
      role="status"
    >
      {word}
      {state.note && `: ${state.note}`}
    </span>
  );
}

/** The name of a socket, written in place. */
function SocketName({ end, port, sound }: { end: 'input' | 'output'; port: Pair; sound: Sound }) {
  const send = useSend();
  const side = end === 'input' ? 'inputs' : 'outputs';
  const name = sound.cards.find((c) => c.deviceId === port.deviceId)?.[side].find((p) => p.pair === port.pair)?.name ?? '';
  return (
    <input
      key={name}
      aria-label={`What is plugged into ${side} ${port.pair * 2 - 1} and ${port.pair * 2}`}
      placeholder={end === 'input' ? 'which microphones?' : 'which loudspeakers?'}
      defaultValue={name}
      maxLength={60}
      className="min-w-0 flex-1"
      onBlur={(e) => e.target.value.trim() !== name && send('sound.nameSocket', { end, port, name: e.target.value.trim() })}
    />
  );
}

function Outputs({ device, sound }: { device: SoundDeviceInfo; sound: Sound }) {
  const send = useSend();
  const pairs = usePairs(device, 'output');
  return (
    <ul aria-label={`Outputs of ${device.label}`}>
      {pairs.map((pair) => {
        const to: Pair = { deviceId: device.deviceId, deviceLabel: device.label, pair };
        const patches = sound.patches.filter((p) => p.to.deviceId === device.deviceId && p.to.pair === pair);
        return (
          <li key={pair} className="flex flex-wrap items-center gap-1 border-t border-line/60 py-1">
            <span className="figures w-12 text-[13px] text-muted">
              {pair * 2 - 1}–{pair * 2}
            </span>
            <SocketName end="output" port={to} sound={sound} />
            <span className="basis-full" />
            <span className="w-12" />
            {patches.map(({ id, busId }) => (
              <Button key={id} title="Unplug it" onClick={() => send('sound.unplug', { patch: id })}>
                {sound.buses.find((b) => b.id === busId)?.name} <Unplug size={13} />
              </Button>
            ))}
            <select
              aria-label={`Plug a bus into outputs ${pair * 2 - 1} and ${pair * 2} of ${device.label}`}
              className="ml-auto w-34"
              value=""
              onChange={(e) => e.target.value && send('sound.plug', { bus: e.target.value, to })}
            >
              <option value="">plug in…</option>
              {sound.buses.map((b) => (
                <option key={b.id} value={b.id}>
                  {b.name}
                </option>
              ))}
            </select>
          </li>
        );
      })}
    </ul>
  );
}

function Inputs({ device, sound }: { device: SoundDeviceInfo; sound: Sound }) {
  const send = useSend();
  const used = (pair: number) =>
    sound.inputs
      .filter((c) => c.feed.kind === 'device' && c.feed.deviceId === device.deviceId && Math.ceil(c.feed.first / 2) === pair)
      .map((c) => c.name);
  const pairs = usePairs(device, 'input');
  const add = (pair: number, choice: string) => {
    const first = choice === 'right' ? pair * 2 : pair * 2 - 1;
    const name = sound.cards.find((c) => c.deviceId === device.deviceId)?.inputs.find((p) => p.pair === pair)?.name ?? `Input ${first}`;
    send('sound.addChannel', {
      name,
      feed: { kind: 'device', deviceId: device.deviceId, deviceLabel: device.label, first, stereo: choice === 'both' },
    });
  };
  return (
    <ul aria-label={`Inputs of ${device.label}`}>
      {pairs.map((pair) => (
        <li key={pair} className="flex flex-wrap items-center gap-1 border-t border-line/60 py-1">
          <span className="figures w-12 text-[13px] text-muted">
            {pair * 2 - 1}–{pair * 2}
          </span>
          <SocketName end="input" port={{ deviceId: device.deviceId, deviceLabel: device.label, pair }} sound={sound} />
          <span className="basis-full" />
          <span className="w-12" />
          <span className="max-w-52 flex-1 truncate text-[13px] text-muted">{used(pair).join(', ')}</span>
          <select
            aria-label={`Add a channel for inputs ${pair * 2 - 1} and ${pair * 2} of ${device.label}`}
            className="ml-auto w-34"
            value=""
            onChange={(e) => e.target.value && add(pair, e.target.value)}
          >
            <option value="">new channel…</option>
            <option value="both">both, stereo</option>
            <option value="left">input {pair * 2 - 1} alone</option>
            <option value="right">input {pair * 2} alone</option>
          </select>
        </li>
      ))}
    </ul>
  );
}

function Monitor({ device }: { device: SoundDeviceInfo }) {
  const host = useShowClient();
  const pairs = usePairs(device, 'output');
  return (
    <label className="flex items-center gap-2 text-[13px] text-muted">
      Hear in your ears
      <select
        aria-label={`Hear outputs of ${device.label} here`}
        defaultValue=""
        onChange={(e) => host.sound.listenAt(device.deviceId, e.target.value === '' ? null : Number(e.target.value))}
      >
        <option value="">nothing of it</option>
        {pairs.map((p) => (
          <option key={p} value={p}>
            outputs {p * 2 - 1}–{p * 2}
          </option>
        ))}
      </select>
    </label>
  );
}

function RoutingFiles({ devices }: { devices: SoundDeviceInfo[] }) {
  const host = useShowClient();
  const send = useSend();
  const save = () => {
    const { show } = host.state.desk;
    const name = `${show.name} routing.json`;
    saveFile(new File([JSON.stringify(exportRouting(show), null, 2)], name, { type: 'application/json' }), name);
  };
  const read = async (file: File) => {
    let routing: unknown;
    try {
      routing = JSON.parse(await file.text());
    } catch {
      say.trouble(`${file.name} is not a routing: it is not JSON. Nothing was changed.`);
      return;
    }
    if (send('sound.importRouting', { routing, devices: devices.map(({ deviceId, label }) => ({ deviceId, label })) }))
      say.good('The routing is in.');
  };
  return (
    <div className="flex gap-2 border-t-2 border-line p-2">
      <Button onClick={save}>
        <FileDown size={14} /> Save the routing
      </Button>
      <FileButton label="Routing to read in" accept=".json" onFile={(file) => void read(file)}>
        <FileUp size={14} /> Read a routing in
      </FileButton>
    </div>
  );
}

/** The device on which the operator of this machine listens; kept in this browser. */
function EarsDevice() {
  const host = useShowClient();
  const [outputs, setOutputs] = useState<MediaDeviceInfo[]>([]);
  useEffect(() => {
    void navigator.mediaDevices
      ?.enumerateDevices()
      .then((list) => setOutputs(list.filter((d) => d.kind === 'audiooutput' && d.deviceId !== 'default')));
  }, []);
  const choose = (deviceId: string) => {
    void host.sound.setEarsDevice(deviceId).then(
      () => localStorage.setItem('bivoca.ears', deviceId),
      (error: unknown) => say.trouble(`You cannot listen there: ${causeOf(error)}. You hear on the device as before.`),
    );
  };
  return (
    <label className="flex items-center gap-2 border-t-2 border-line p-2 text-[13px] text-muted">
      Your ears are at
      <select
        aria-label="Device on which you listen"
        className="min-w-0 flex-1"
        defaultValue={localStorage.getItem('bivoca.ears') ?? ''}
        onChange={(e) => choose(e.target.value)}
      >
        <option value="">the default device of this machine</option>
        {outputs.map((d) => (
          <option key={d.deviceId} value={d.deviceId}>
            {d.label}
          </option>
        ))}
      </select>
    </label>
  );
}

/** What is plugged in where: devices, their sockets, their own mixers, and the room. */
export function PatchPanel() {
  const devices = useDevices();
  const sound = useShow(({ desk: { show } }) => show.sound);
  const named = [
    ...sound.patches.map((p) => ({ ...p.to, side: 'output' as const })),
    ...sound.inputs.flatMap((c) => (c.feed.kind === 'device' ? [{ ...c.feed, side: 'input' as const }] : [])),
  ];
  // Devices that the show names and this machine does not have are shown too: they are missing.
  const missing = [
    ...new Map(
      named
        .filter((n) => !devices.some((d) => d.deviceId === n.deviceId))
        .map((n) => [n.deviceId, { deviceId: n.deviceId, label: n.deviceLabel || 'Default device', inputPairs: 0, outputPairs: 0 }]),
    ).values(),
  ];
  const inUse = (d: SoundDeviceInfo) => named.some((n) => n.deviceId === d.deviceId) || sound.cards.some((c) => c.deviceId === d.deviceId);
  const all: SoundDeviceInfo[] = [...missing, ...devices].sort((a, b) => Number(inUse(b)) - Number(inUse(a)));
  return (
    <div>
      {all.map((device) => (
        <details key={device.deviceId + String(device.inputPairs > 0)} open={inUse(device)} className="border-b border-line px-2 py-1">
          <summary className="cursor-pointer py-1">
            <Plug size={14} className="mr-1 inline" />
            <span className="font-semibold">{device.label}</span>
            <span className="ml-2 inline-flex gap-3">
              <DeviceNote deviceId={device.deviceId} side="output" />
              <DeviceNote deviceId={device.deviceId} side="input" />
            </span>
          </summary>
          {(device.outputPairs > 0 || named.some((n) => n.side === 'output' && n.deviceId === device.deviceId)) && (
            <>
              <h3 className="mt-1 text-[13px] text-straw">Outputs</h3>
              <Outputs device={device} sound={sound} />
            </>
          )}
          {(device.inputPairs > 0 || named.some((n) => n.side === 'input' && n.deviceId === device.deviceId)) && (
            <>
              <h3 className="mt-1 text-[13px] text-straw">Inputs</h3>
              <Inputs device={device} sound={sound} />
            </>
          )}
          <h3 className="mt-1 text-[13px] text-straw">Ways back: its own mixer, and the air</h3>
          <WaysBack device={device} sound={sound} />
          {device.monitored && <Monitor device={device} />}
        </details>
      ))}
      <EarsDevice />
      <RoutingFiles devices={devices} />
    </div>
  );
}

/** Ways by which sound comes back: through the air, and inside of cards. */
import { type ReactNode, useState } from 'react';
import { type Sound } from '#core/sound/document';
import { type SoundDeviceInfo } from '#engine/sound/device-driver';
import { useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { NumberField } from '../parts/number-field';
import { usePairs } from './use-devices';
import { pairWords } from './words';

/** The card's own mixer and the ways through the air: what Bivoca must be told to find every loop. */
export function WaysBack({ device, sound }: { device: SoundDeviceInfo; sound: Sound }) {
  const send = useSend();
  const [from, setFrom] = useState('output 1');
  const [to, setTo] = useState('input 1');
  const [through, setThrough] = useState<'card' | 'air'>('card');
  const card = sound.cards.find((c) => c.deviceId === device.deviceId);
  const paths = sound.paths.filter((p) => p.from.deviceId === device.deviceId);
  const [inputs, outputs] = [usePairs(device, 'input'), usePairs(device, 'output')];
  const ends = [...inputs.map((pair) => ({ from: 'input' as const, pair })), ...outputs.map((pair) => ({ from: 'output' as const, pair }))];
  const end = (e: 'input' | 'output', pair: number) =>
    pairWords(sound, e === 'input' ? 'inputs' : 'outputs', { deviceId: device.deviceId, pair });
  const row = (key: string, words: ReactNode, on: boolean, onSwitch: () => void, fields: ReactNode, onRemove: () => void) => (
    <li key={key} className="flex flex-wrap items-center gap-1 border-t border-line/60 py-1 text-[13px]">
      <Button pressed={on} aria-label={`Path ${key} is on`} onClick={onSwitch}>
        {on ? 'On' : 'Off'}
      </Button>
      <span className="min-w-0 flex-1">{words}</span>
      {fields}
      <IconButton label="Remove this path" onClick={onRemove}>
        ×
      </IconButton>
    </li>
  );
  const isAir = through === 'air' && from.startsWith('output') && to.startsWith('input');
  const add = () => {
    const [fromEnd, fromPair] = from.split(' ');
    const [toEnd, toPair] = to.split(' ');
    const pair = { deviceId: device.deviceId, deviceLabel: device.label };
    if (isAir) send('sound.addAirPath', { from: { ...pair, pair: Number(fromPair) }, to: { ...pair, pair: Number(toPair) } });
    else send('sound.addCardMix', { ...pair, from: fromEnd, fromPair: Number(fromPair), to: toEnd, toPair: Number(toPair) });
  };
  const endSelect = (label: string, value: string, choose: (end: string) => void) => (
    <select aria-label={label} className="min-w-0 flex-1" value={value} onChange={(e) => choose(e.target.value)}>
      {ends.map((e) => (
        <option key={`${e.from} ${e.pair}`} value={`${e.from} ${e.pair}`}>
          {end(e.from, e.pair)}
        </option>
      ))}
    </select>
  );
  return (
    <ul aria-label={`Ways back in ${device.label}`}>
      {(card?.mixes ?? []).map((m) =>
        row(
          m.id,
          `${end(m.from, m.fromPair)} → ${end(m.to, m.toPair)}, in its own mixer`,
          m.on,
          () => send('sound.setCardMix', { mix: m.id, on: !m.on }),
          <NumberField
            label="Level in the card’s mixer, dB"
            className="w-20"
            unit="dB"
            min={-60}
            max={12}
            whole={0}
            digits={1}
            value={m.levelDb}
            onCommit={(levelDb) => send('sound.setCardMix', { mix: m.id, levelDb })}
          />,
          () => send('sound.removeCardMix', { mix: m.id }),
        ),
      )}
      {paths.map((p) =>
        row(
          p.id,
          `${pairWords(sound, 'outputs', p.from)} → ${pairWords(sound, 'inputs', p.to)}, through the air`,
          p.on,
          () => send('sound.setAirPath', { path: p.id, on: !p.on }),
          <>
            <NumberField
              label="Level on arrival, dB"
              className="w-20"
              unit="dB"
              min={-80}
              max={12}
              whole={0}
              digits={1}
              value={p.levelDb}
              onCommit={(levelDb) => send('sound.setAirPath', { path: p.id, levelDb })}
            />
            <NumberField
              label="Time through the air, ms"
              className="w-20"
              unit="ms"
              min={0.3}
              max={500}
              digits={1}
              value={p.delayMs}
              onCommit={(delayMs) => send('sound.setAirPath', { path: p.id, delayMs })}
            />
          </>,
          () => send('sound.removeAirPath', { path: p.id }),
        ),
      )}
      <li className="grid grid-cols-[auto_1fr_auto] items-center gap-1 border-t border-line/60 py-1 text-[13px]">
        <span className="text-muted">from</span>
        {endSelect('What comes back', from, setFrom)}
        <span />
        <span className="text-muted">to</span>
        {endSelect('Where it comes back to', to, setTo)}
        <span />
        <span />
        <select
          aria-label="How it comes back"
          className="min-w-0 flex-1"
          value={isAir ? 'air' : 'card'}
          onChange={(e) => setThrough(e.target.value as 'card' | 'air')}
        >
          <option value="card">in its own mixer</option>
          {from.startsWith('output') && to.startsWith('input') && <option value="air">through the air</option>}
        </select>
        <Button unusable={from === to ? 'Choose two different ends.' : null} onClick={add}>
          Add
        </Button>
      </li>
    </ul>
  );
}

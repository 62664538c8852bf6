/** Every setting of a bus. */
import { type Bus } from '#core/sound/document';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { HoldButton } from '../parts/hold-button';
import { DelayFields, Equaliser, Field, Stage } from './strip-stages';

export function BusSettings({ bus }: { bus: Bus }) {
  const send = useSend();
  const listeners = useShow(({ desk }) => desk.show.sound.listeners);
  const set = (change: Record<string, unknown>) => send('sound.setBus', { bus: bus.id, ...change });
  const heard = listeners.filter((l) => l.busId === bus.id).map((l) => l.name);
  return (
    <>
      <div className="mb-2 flex items-center gap-2">
        <input
          aria-label="Name of the bus"
          className="min-w-0 flex-1"
          defaultValue={bus.name}
          key={bus.name}
          maxLength={40}
          onBlur={(e) => e.target.value.trim() && e.target.value !== bus.name && set({ name: e.target.value.trim() })}
        />
        {bus.id !== 'programme' && (
          <HoldButton look="quiet" title="Hold to remove this bus with its sends" onHeld={() => send('sound.removeBus', { bus: bus.id })}>
            Remove
          </HoldButton>
        )}
      </div>
      <p className="mb-2 text-[13px] text-muted">
        {heard.length > 0 ? `Heard by ${heard.join(', ')}.` : 'Nobody listens to it yet: see Listeners.'}
      </p>
      <Stage title="Output">
        <Field
          label="Limiter"
          unit="dBFS"
          min={-20}
          max={0}
          digits={1}
          value={bus.ceilingDb}
          onCommit={(ceilingDb) => set({ ceilingDb })}
        />
        <select
          aria-label="Timing"
          title="Live inputs wait 130 ms for their pictures, unless people in the room listen"
          value={bus.timing}
          onChange={(e) => set({ timing: e.target.value })}
        >
          <option value="picture">in time with the picture</option>
          <option value="live">live, without waiting</option>
        </select>
        <DelayFields delayMs={bus.delayMs} onCommit={(delayMs) => set({ delayMs })} />
      </Stage>
      <Equaliser id={bus.id} eq={bus.eq} />
      <Button
        className="mb-2"
        title="For a howl whose loop is not known here"
        onClick={() => send('sound.hold', { bus: bus.id, db: 24, hz: 0 })}
      >
        Turn down by 24 dB until released
      </Button>
      <label className="flex items-center gap-2 border-t border-line py-2">
        <input type="checkbox" checked={bus.record} onChange={(e) => set({ record: e.target.checked })} /> Record it as a stereo WAV beside
        the programme
      </label>
    </>
  );
}

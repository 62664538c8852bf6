/** What an item of the running order takes to air, how long it is, and its notes. */
import { Plus, X } from 'lucide-react';
import { entitiesOf } from '#core/desk/entities';
import { type ItemLane, type ItemSeat, MOST_PARTS, type OrderItem, TAKES } from '#core/order/document';
import { formatSigned, readLength } from '#core/time/day';
import { say } from '../client/say';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { Check, Choice, ColourField, Line, Part, ThingChoice, TimeOfDayField } from '../parts/fields';
import { Monitor } from '../parts/monitor';
import { useDraft } from '../parts/use-draft';

const TAKE_WORDS: Record<OrderItem['takes'], string> = {
  take: 'taken by the armed transition',
  cut: 'cut to',
  next: 'put into Next only',
};

function Notes({ value, onSave }: { value: string; onSave: (notes: string) => void }) {
  const [text, setText] = useDraft(value);
  return (
    <textarea
      aria-label="Notes"
      placeholder="For the crew and the presenter"
      rows={5}
      maxLength={4000}
      className="w-full"
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => text !== value && onSave(text)}
    />
  );
}

/** Rows of which each sets one thing to another: lanes to pictures, seats to whoever sits there. */
function Pairs({
  label,
  none,
  holders,
  things,
  pairs,
  onChange,
}: {
  label: string;
  /** What setting it to nothing is. */
  none: string;
  holders: readonly { id: string; name: string }[];
  things: readonly { id: string; name: string }[];
  pairs: readonly (readonly [string, string | null])[];
  onChange: (pairs: (readonly [string, string | null])[]) => void;
}) {
  const free = holders.find((h) => !pairs.some(([id]) => id === h.id));
  return (
    <>
      {pairs.map(([holder, thing], i) => (
        <div key={holder} className="grid grid-cols-[minmax(0,2fr)_minmax(0,3fr)_auto] items-end gap-1">
          <ThingChoice
            label={i === 0 ? label : ''}
            name={`${label} ${i + 1}`}
            value={holder}
            all={holders}
            onChange={(id) => id !== null && onChange(pairs.map((p, at) => (at === i ? [id, p[1]] : p)))}
          />
          <ThingChoice
            label={i === 0 ? 'shows' : ''}
            name={`What ${label.toLowerCase()} ${i + 1} shows`}
            none={none}
            value={thing}
            all={things}
            onChange={(id) => onChange(pairs.map((p, at) => (at === i ? [p[0], id] : p)))}
          />
          <IconButton label={`Leave ${label.toLowerCase()} ${i + 1} as it is`} onClick={() => onChange(pairs.filter((_, at) => at !== i))}>
            <X size={14} />
          </IconButton>
        </div>
      ))}
      <span>
        <Button
          unusable={free && pairs.length < MOST_PARTS ? null : holders.length === 0 ? 'The show has none.' : 'All are there already.'}
          onClick={() => free && onChange([...pairs, [free.id, null]])}
        >
          <Plus size={14} /> {label}
        </Button>
      </span>
    </>
  );
}

export function ItemPanel({ item }: { item: OrderItem }) {
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const set = (change: object) => send('order.set', { item: item.id, ...change });
  const setLanes = (lanes: ItemLane[]) => send('order.setLanes', { item: item.id, lanes });
  const setSeats = (seats: ItemSeat[]) => send('order.setSeats', { item: item.id, seats });
  const setLength = (words: string) => {
    const seconds = words.trim() === '' ? 0 : readLength(words);
    if (seconds === null) say.caution(`“${words}” is no length. Write 4:30, or 1:04:30, or seconds.`);
    else set({ seconds });
  };
  return (
    <div>
      <Part title="Item">
        <Line strong showLabel max={120} label="Name of the item" value={item.name} onSave={(name) => set({ name })} />
        <div className="flex items-end gap-2">
          <Line
            showLabel
            empty
            max={12}
            label="Planned length"
            value={item.seconds > 0 ? formatSigned(item.seconds) : ''}
            onSave={setLength}
          />
          <TimeOfDayField label="Hard time" value={item.hard} onChange={(hard) => set({ hard })} />
          <ColourField label="Colour" colour={item.colour} onChange={({ colour }) => colour !== undefined && set({ colour })} />
        </div>
        <Check label="floats: stands by, without a place in time" on={item.floats} onChange={(floats) => set({ floats })} />
      </Part>
      <Part title="Picture">
        {item.pictureId !== null && (
          <span className="block aspect-video w-full bg-black">
            <Monitor picture={{ kind: 'picture', id: item.pictureId }} label="Picture of the item" className="h-full w-full" />
          </span>
        )}
        <div className="grid grid-cols-2 gap-1.5">
          <ThingChoice
            label="Picture or layout"
            none="as it is"
            value={item.pictureId}
            pictures
            all={entitiesOf(show, 'picture')}
            onChange={(picture) => set({ picture })}
          />
          <Choice
            label="It is"
            value={item.takes}
            all={TAKES.map((t) => [t, TAKE_WORDS[t]] as const)}
            onChange={(takes) => set({ takes })}
          />
        </div>
      </Part>
      <Part title="Graphics">
        <Pairs
          label="Lane"
          none="hide it"
          holders={show.lanes}
          things={entitiesOf(show, 'picture')}
          pairs={item.lanes.map((l) => [l.laneId, l.pictureId] as const)}
          onChange={(pairs) => setLanes(pairs.map(([laneId, pictureId]) => ({ laneId, pictureId })))}
        />
      </Part>
      <Part title="Clip and macro">
        <div className="grid grid-cols-2 gap-1.5">
          <ThingChoice
            label="Clip, rolled to air"
            none="none"
            value={item.clipId}
            all={entitiesOf(show, 'clip')}
            onChange={(clip) => set({ clip })}
          />
          <ThingChoice label="Macro" none="none" value={item.macroId} all={show.automation.macros} onChange={(macro) => set({ macro })} />
        </div>
      </Part>
      <Part title="Seats">
        <Pairs
          label="Seat"
          none="nobody"
          holders={show.seats}
          things={entitiesOf(show, 'occupant')}
          pairs={item.seats.map((s) => [s.seatId, s.occupantId] as const)}
          onChange={(pairs) => setSeats(pairs.map(([seatId, occupantId]) => ({ seatId, occupantId })))}
        />
      </Part>
      <Part title="Notes">
        <Notes value={item.notes} onSave={(notes) => set({ notes })} />
      </Part>
    </div>
  );
}

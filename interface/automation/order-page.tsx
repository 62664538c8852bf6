/** The running order: Go, the times, the list of items, and what the chosen item takes to air. */
import { ExternalLink, Play, RotateCcw } from 'lucide-react';
import { itemOn, itemToCome } from '#core/order/find';
import { formatDay, formatSigned } from '#core/time/day';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { Check, TimeOfDayField } from '../parts/fields';
import { region } from '../parts/region';
import { OrderFiles } from './order-files';
import { ItemPanel } from './order-item';
import { OrderList } from './order-list';
import { openOrderWindow } from './order-edits';
import { useAutomationRoom } from './room-state';
import { useOrderTimes } from './order-times';
import { COLUMNS } from '../parts/columns';

const Figure = ({ label, value, tone = '' }: { label: string; value: string; tone?: string }) => (
  <div className="flex flex-col">
    <span className="text-xs text-muted">{label}</span>
    <span className={`figures text-lg whitespace-nowrap ${tone}`}>{value}</span>
  </div>
);

/** Over and under, said with the word and not by the sign alone. */
const overWords = (over: number | null): string =>
  over === null ? '–' : Math.abs(over) < 0.5 ? 'on time' : `${formatSigned(Math.abs(over))} ${over > 0 ? 'over' : 'under'}`;

const overTone = (over: number | null): string => (over !== null && over >= 0.5 ? 'text-caution' : 'text-next');

function Going() {
  const send = useSend();
  const desk = useShow(({ desk: d }) => d);
  const times = useOrderTimes();
  const [on, next] = [itemOn(desk), itemToCome(desk)];
  const { startsAt, endsAt, prepares, items } = desk.show.order;
  const empty = items.length === 0 ? 'The running order has no items yet.' : null;
  return (
    <nav className="flex min-h-0 flex-col gap-3 overflow-y-auto border-r border-line p-2" {...region('go', 'Go')}>
      <Button
        look="straw"
        className="min-h-16 text-2xl!"
        keyFor="order.go"
        title={next ? `Takes ${next.name} to air` : undefined}
        unusable={empty ?? (next ? null : 'The running order is over: start it anew, or choose an item.')}
        onClick={() => send('order.go')}
      >
        <Play size={22} /> Go
      </Button>
      <div className="flex flex-col gap-1">
        <span className="text-xs text-muted">On</span>
        <span className="flex items-center gap-1">
          <span
            className="min-w-0 flex-1 truncate font-semibold"
            style={{ borderLeft: `4px solid ${on?.colour ?? 'transparent'}`, paddingLeft: 6 }}
          >
            {on?.name ?? 'nothing yet'}
          </span>
          <Button title="Its time ends; nothing changes on air" unusable={on ? null : 'No item is on.'} onClick={() => send('order.end')}>
            End
          </Button>
        </span>
        <span className="text-xs text-muted">Next</span>
        <span
          className="truncate font-semibold text-next"
          style={{ borderLeft: `4px solid ${next?.colour ?? 'transparent'}`, paddingLeft: 6 }}
        >
          {next?.name ?? 'nothing more'}
        </span>
      </div>
      <div className="grid grid-cols-2 gap-x-2 gap-y-1 border-y border-line py-2">
        <Figure
          label="Left of this item"
          value={times.left === null ? '–' : formatSigned(times.left)}
          tone={times.left !== null && times.left < 0 ? 'text-caution' : ''}
        />
        <Figure label="Now" value={formatDay(times.now)} />
        <Figure label="The show is" value={overWords(times.over)} tone={overTone(times.over)} />
        <Figure label="Ends at" value={times.expectedEnd === null ? '–' : formatDay(times.expectedEnd)} />
      </div>
      <div className="flex flex-col gap-2">
        <TimeOfDayField label="Planned beginning" value={startsAt} onChange={(seconds) => send('order.setUp', { startsAt: seconds })} />
        <TimeOfDayField label="Has to be over at" value={endsAt} onChange={(seconds) => send('order.setUp', { endsAt: seconds })} />
        <Check label="the next picture goes into Next" on={prepares} onChange={(on_) => send('order.setUp', { prepares: on_ })} />
      </div>
      <div className="mt-auto flex flex-wrap gap-1">
        <Button
          title="A large view for the presenter and the crew, in a window of its own"
          keyFor="order.window"
          onClick={() => openOrderWindow(desk.show.id)}
        >
          <ExternalLink size={15} /> Presenter
        </Button>
        <Button
          title="Forgets what was on: Go takes the first item. Nothing changes on air"
          unusable={empty}
          onClick={() => send('order.reset')}
        >
          <RotateCcw size={15} /> Anew
        </Button>
        <OrderFiles />
      </div>
    </nav>
  );
}

export function OrderPage() {
  const items = useShow(({ desk }) => desk.show.order.items);
  const chosen = useAutomationRoom((s) => s.items);
  const item = items.find((i) => i.id === chosen.at(-1));
  return (
    <div className={`${COLUMNS} h-full grid-cols-[252px_minmax(0,1fr)_340px] max-wide:grid-cols-[208px_minmax(0,1fr)_280px]`}>
      <Going />
      <section className="flex min-h-0 min-w-0 flex-col" {...region('items', 'Items')}>
        <OrderList />
      </section>
      <aside className="min-h-0 overflow-y-auto border-l border-line" {...region('settings', 'What it takes')}>
        {item ? (
          <ItemPanel key={item.id} item={item} />
        ) : (
          <p className="p-3 text-sm text-muted">Choose an item: what it takes to air is set here.</p>
        )}
      </aside>
    </div>
  );
}

/** The items of the running order with their times: chosen, moved, skipped, gone to. */
import clsx from 'clsx';
import { CopyPlus, GripVertical, Play, Plus, SkipForward, StepForward, Trash2 } from 'lucide-react';
import { nameOf } from '#core/desk/entities';
import { type Show } from '#core/desk/show';
import { type OrderItem } from '#core/order/document';
import { type ItemTimes } from '#core/order/times';
import { formatDay, formatSigned } from '#core/time/day';
import { useSend, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { useRowDrag } from '../parts/use-drop';
import { useOrderTimes } from './order-times';
import { addItem, duplicateItems, removeItems } from './order-edits';
import { chooseItem, useAutomationRoom } from './room-state';

const STATE_WORDS: Record<ItemTimes['state'], string> = {
  on: 'ON',
  next: 'NEXT',
  past: 'done',
  passed: 'passed',
  skipped: 'skipped',
  floats: 'floats',
  'to-come': '',
};

/** What an item takes, in a few words. */
function takesWords(show: Show, item: OrderItem): string {
  const lanes = item.lanes.map((l) =>
    l.pictureId === null ? `${nameOf(show, 'lane', l.laneId)} off` : nameOf(show, 'picture', l.pictureId),
  );
  const parts = [
    item.pictureId === null ? '' : nameOf(show, 'picture', item.pictureId),
    ...lanes,
    item.clipId === null ? '' : `clip ${nameOf(show, 'clip', item.clipId)}`,
    item.macroId === null ? '' : `macro ${nameOf(show, 'macro', item.macroId)}`,
    item.seats.length > 0 ? `${item.seats.length} ${item.seats.length === 1 ? 'seat' : 'seats'}` : '',
  ];
  return parts.filter(Boolean).join(' · ') || 'nothing yet';
}

function gapWords(gap: number | null): { words: string; tone: string } | null {
  if (gap === null) return null;
  if (Math.abs(gap) < 0.5) return { words: 'fits', tone: 'text-next' };
  return gap > 0
    ? { words: `fill ${formatSigned(gap)}`, tone: 'text-straw' }
    : { words: `${formatSigned(-gap)} too long`, tone: 'text-caution' };
}

function Row({ show, item, times, index, chosen }: { show: Show; item: OrderItem; times: ItemTimes; index: number; chosen: boolean }) {
  const send = useSend();
  const { over, handlers } = useRowDrag(
    'text/bivoca-items',
    item.id,
    show.order.items,
    () => useAutomationRoom.getState().items,
    (items, place) => send('order.move', { items, index: place }),
  );
  const { state } = times;
  const gap = gapWords(times.gap);
  const off = state === 'past' || state === 'passed' || state === 'skipped' || state === 'floats';
  return (
    <li
      data-item={item.id}
      aria-current={state === 'on' ? 'true' : undefined}
      {...handlers}
      className={clsx(
        'flex items-center gap-2 border-b border-line pr-1',
        chosen && 'bg-raised',
        over && 'border-t-2 border-t-straw',
        state === 'on' && 'outline outline-2 -outline-offset-2 outline-air',
        state === 'next' && 'outline outline-1 -outline-offset-1 outline-next',
      )}
      style={{ borderLeft: `4px solid ${item.colour}` }}
    >
      <GripVertical size={14} className="shrink-0 cursor-grab text-muted" aria-hidden />
      <button
        type="button"
        aria-pressed={chosen}
        aria-label={`${index + 1}: ${item.name}${STATE_WORDS[state] ? `, ${STATE_WORDS[state]}` : ''}`}
        className="grid min-h-11 min-w-0 flex-1 grid-cols-[56px_minmax(0,1fr)_64px_72px_96px] items-center gap-2 py-0.5 text-left"
        onClick={(e) => chooseItem(item.id, e.shiftKey)}
      >
        <span
          className={clsx(
            'figures text-[13px]',
            state === 'on'
              ? 'bg-air px-1 text-center font-semibold text-deep'
              : state === 'next'
                ? 'font-semibold text-next'
                : 'text-muted',
          )}
        >
          {STATE_WORDS[state] || index + 1}
        </span>
        <span className={clsx('min-w-0', off && state !== 'floats' && 'opacity-60')}>
          <span
            className={clsx(
              'block truncate',
              (state === 'on' || state === 'next') && 'font-semibold',
              state === 'skipped' && 'line-through',
            )}
          >
            {item.name}
          </span>
          <span className="block truncate text-[13px] text-muted">{takesWords(show, item)}</span>
        </span>
        <span className="figures text-right">
          {times.took !== null && state !== 'to-come' ? formatSigned(times.took) : item.seconds > 0 ? formatSigned(item.seconds) : '–'}
          {times.took !== null && item.seconds > 0 && <span className="block text-[13px] text-muted">of {formatSigned(item.seconds)}</span>}
        </span>
        <span className="figures text-right text-muted">
          {item.hard === null ? (
            times.planned === null ? (
              ''
            ) : (
              formatDay(times.planned)
            )
          ) : (
            <strong className="text-text">{formatDay(item.hard)}</strong>
          )}
          {item.hard !== null && <span className="block text-[13px]">hard</span>}
        </span>
        <span className="figures text-right">
          {times.starts === null ? '' : formatDay(times.starts)}
          {gap && <span className={`block text-[13px] whitespace-nowrap ${gap.tone}`}>{gap.words}</span>}
        </span>
      </button>
      <IconButton label={`Go to ${item.name} now`} onClick={() => send('order.goTo', { item: item.id })}>
        <Play size={15} />
      </IconButton>
    </li>
  );
}

export function OrderList() {
  const client = useShowClient();
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const skipped = useShow(({ desk }) => desk.air.order.skipped);
  const times = useOrderTimes();
  const chosenIds = useAutomationRoom((s) => s.items);
  const { items } = show.order;
  const chosen = items.filter((i) => chosenIds.includes(i.id)).map((i) => i.id);
  const none = chosen.length === 0 ? 'Choose an item first.' : null;
  const allSkipped = chosen.length > 0 && chosen.every((id) => skipped.includes(id));
  return (
    <>
      <div className="flex shrink-0 flex-wrap gap-1 border-b border-line p-1.5">
        <Button title="New item behind the chosen one" keyFor="order.new" onClick={() => addItem(client)}>
          <Plus size={15} /> Item
        </Button>
        <Button
          title="Go takes the chosen item next"
          keyFor="order.next"
          unusable={none}
          onClick={() => send('order.setNext', { item: chosen[0] })}
        >
          <StepForward size={15} /> Next
        </Button>
        <Button
          title="Go passes over the chosen items this time"
          keyFor="order.skip"
          pressed={allSkipped}
          unusable={none}
          onClick={() => send('order.skip', { items: chosen, skipped: !allSkipped })}
        >
          <SkipForward size={15} /> Skip
        </Button>
        <span className="ml-auto flex">
          <IconButton label="Duplicate the chosen items" unusable={none} onClick={() => duplicateItems(client, chosen)}>
            <CopyPlus size={15} />
          </IconButton>
          <IconButton label="Remove the chosen items" unusable={none} onClick={() => removeItems(client, chosen)}>
            <Trash2 size={15} />
          </IconButton>
        </span>
      </div>
      <div
        className="grid shrink-0 grid-cols-[56px_minmax(0,1fr)_64px_72px_96px] gap-2 border-b border-line py-0.5 pr-9 pl-6 text-[13px] text-muted"
        aria-hidden
      >
        <span />
        <span>Item</span>
        <span className="text-right">Length</span>
        <span className="text-right">Planned</span>
        <span className="text-right">Starts</span>
      </div>
      <ol className="min-h-0 flex-1 overflow-y-auto" aria-label="Items of the running order">
        {items.map((item, i) => {
          const t = times.items[i];
          return t && <Row key={item.id} show={show} item={item} times={t} index={i} chosen={chosenIds.includes(item.id)} />;
        })}
        {items.length === 0 && (
          <li className="p-3 text-sm text-muted">
            No items yet. An item takes a picture, graphics, a clip, a macro and guests to air at one press of Go, and keeps the time. Add
            one, or bring in a table (CSV).
          </li>
        )}
      </ol>
    </>
  );
}

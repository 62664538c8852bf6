/** The running order for the presenter and the crew, in a window of its own; with `?print=1`, as it goes on paper. */
import clsx from 'clsx';
import { useEffect } from 'react';
import { type Copy } from '#core/panels/copy';
import { itemOn, itemsToCome } from '#core/order/find';
import { cellsOf } from '#core/order/order-file';
import { orderTimes } from '#core/order/times';
import { formatDay, formatSigned } from '#core/time/day';
import { toggleFull, useFullKey } from '../parts/full-screen';
import { useCopy } from './use-copy';

/** Items to come that are shown. */
const MOST_COMING = 4;

function Large({ copy, frame }: { copy: Copy; frame: number }) {
  const times = orderTimes(copy, frame);
  const [on, coming] = [itemOn(copy), itemsToCome(copy)];
  const { items } = copy.show.order;
  const startOf = (id: string) => times.items[items.findIndex((i) => i.id === id)]?.starts ?? null;
  const late = times.left !== null && times.left < 0;
  const { over } = times;
  return (
    <>
      <header className="flex items-baseline gap-6 text-[3vw]">
        <span className="figures">{formatDay(times.now)}</span>
        <span className={clsx('figures ml-auto', over !== null && over >= 0.5 ? 'text-caution' : 'text-next')}>
          {over === null ? '' : Math.abs(over) < 0.5 ? 'on time' : `${formatSigned(Math.abs(over))} ${over > 0 ? 'over' : 'under'}`}
        </span>
        <span className="figures text-muted">ends {times.expectedEnd === null ? '–' : formatDay(times.expectedEnd)}</span>
      </header>
      <section aria-label="On" className="flex min-h-0 flex-1 flex-col justify-center">
        <div className="flex items-center gap-[2vw]">
          <span className={clsx('px-[1vw] text-[2.4vw] font-bold', on ? 'bg-air text-deep' : 'text-muted')}>{on ? 'ON' : 'NOT BEGUN'}</span>
          <h1 className="min-w-0 flex-1 truncate text-[5.5vw] leading-tight font-semibold">{on?.name ?? copy.show.name}</h1>
          <span className={clsx('figures text-[8vw] leading-none', late && 'text-caution')} aria-label={late ? 'over by' : 'left'}>
            {times.left === null ? '' : `${late ? '+' : ''}${formatSigned(Math.abs(times.left))}`}
          </span>
        </div>
        {on && on.notes !== '' && <p className="mt-[1.5vw] overflow-hidden text-[2.6vw] leading-snug whitespace-pre-wrap">{on.notes}</p>}
      </section>
      <ol aria-label="What comes" className="border-t-2 border-line pt-[1vw]">
        {coming.slice(0, MOST_COMING).map((item, i) => {
          const starts = startOf(item.id);
          return (
            <li key={item.id} className={clsx('flex items-baseline gap-[2vw] text-[2.4vw]', i === 0 ? 'text-next' : 'text-muted')}>
              <span className="figures w-[12vw]">{starts === null ? '' : formatDay(starts)}</span>
              <span className="min-w-0 flex-1 truncate">{item.name}</span>
              <span className="figures">{item.seconds > 0 ? formatSigned(item.seconds) : ''}</span>
            </li>
          );
        })}
        {coming.length === 0 && <li className="text-[2.4vw] text-muted">Nothing comes after this.</li>}
      </ol>
    </>
  );
}

const PRINTED = ['Item', 'Length', 'Hard time', 'Picture', 'Lanes', 'Seats', 'Clip', 'Macro', 'Notes'] as const;

function Printed({ copy }: { copy: Copy }) {
  const times = orderTimes(copy, copy.frame);
  const { show } = copy;
  const used = PRINTED.filter((c) => c === 'Item' || show.order.items.some((i) => cellsOf(show, i)[c] !== ''));
  useEffect(() => {
    const timer = setTimeout(() => window.print(), 300);
    return () => clearTimeout(timer);
  }, []);
  return (
    <div className="min-h-full overflow-auto bg-white p-6 text-black">
      <h1 className="text-2xl font-semibold">{show.name}: running order</h1>
      <table className="mt-3 w-full border-collapse text-left text-sm">
        <thead>
          <tr>
            {['No.', 'Planned', ...used].map((c) => (
              <th key={c} className="border-b-2 border-black py-1 pr-3 align-bottom">
                {c}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {show.order.items.map((item, i) => {
            const cells = cellsOf(show, item);
            const planned = times.items[i]?.planned ?? null;
            return (
              <tr key={item.id} className="break-inside-avoid">
                <td className="figures border-b border-black/30 py-1 pr-3 align-top">{i + 1}</td>
                <td className="figures border-b border-black/30 py-1 pr-3 align-top">{planned === null ? 'floats' : formatDay(planned)}</td>
                {used.map((c) => (
                  <td key={c} className="border-b border-black/30 py-1 pr-3 align-top whitespace-pre-wrap">
                    {cells[c]}
                  </td>
                ))}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** What is on with its time, notes and what comes. A double press, or F, fills the screen. */
export function OrderWindow() {
  const { copy, trouble, frame } = useCopy();
  const print = new URLSearchParams(window.location.search).has('print');
  const name = copy?.show.name;
  useEffect(() => {
    document.title = `${name === undefined ? '' : `${name} · `}Running order · Bivoca`;
  }, [name]);
  useFullKey();
  if (copy && print) return <Printed copy={copy} />;
  return (
    <main className="flex h-full flex-col overflow-hidden bg-deep p-[2vw]" onDoubleClick={toggleFull}>
      {copy && <Large copy={copy} frame={frame} />}
      {trouble !== null && (
        <p role="status" className={clsx('text-[2vw] text-caution', !copy && 'm-auto')}>
          {trouble}
        </p>
      )}
    </main>
  );
}

/** What is done with a ticker on air: stopped, cleared, an urgent item put next. */
import { useState } from 'react';
import { Pause, Play, RotateCcw } from 'lucide-react';
import { tickersOnAir } from '#core/desk/keep-tickers';
import { type Graphic } from '#core/graphics/document';
import { useSend, useShow } from '../client/show-client';
import { useDo } from '../control/do';
import { Button } from '../parts/button';
import { region } from '../parts/region';

/** Nothing for a graphic without a ticker. */
export function TickerBar({ graphic }: { graphic: Graphic }) {
  const send = useSend();
  const perform = useDo();
  const [text, setText] = useState('');
  const state = useShow(({ desk: { air } }) => {
    const up = tickersOnAir(air).filter((t) => t.up && t.shown.graphic.id === graphic.id);
    const runs = up.flatMap((t) => air.graphics.tickers[t.key] ?? []);
    const waiting = runs[0]?.urgent.length ?? 0;
    return runs.length === 0 ? 'down' : `${runs.every((r) => r.paused !== null) ? 'paused' : 'runs'} ${waiting}`;
  });
  if (!graphic.elements.some((e) => e.content.kind === 'ticker')) return null;
  const down = state === 'down' ? 'The ticker is not on air.' : null;
  const paused = state.startsWith('paused');
  const urgent = () => {
    if (text.trim() !== '' && send('ticker.urgent', { graphic: graphic.id, text })) setText('');
  };
  return (
    <section {...region('ticker', 'Ticker')} className="flex shrink-0 flex-wrap items-center gap-1 border-b border-line p-1.5">
      <span
        className={`figures px-1 text-[13px] font-semibold ${down ? 'border border-line text-muted' : paused ? 'bg-caution text-deep' : 'bg-air text-deep'}`}
      >
        {down ? 'TICKER' : paused ? 'STOPPED' : 'RUNS'}
      </span>
      <Button
        className="min-w-24"
        unusable={down}
        pressed={paused}
        keyFor="graphics.pauseTicker"
        onClick={() => perform('graphics.pauseTicker')}
      >
        {paused ? <Play size={15} /> : <Pause size={15} />} {paused ? 'Go on' : 'Pause'}
      </Button>
      <Button unusable={down} title="Empties the line; it begins anew with its first item" onClick={() => perform('graphics.clearTicker')}>
        <RotateCcw size={15} /> Clear
      </Button>
      <input
        data-role="urgent-item"
        aria-label="Urgent item"
        placeholder="Urgent item, comes next"
        className="min-w-40 flex-1"
        maxLength={1000}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Escape') setText('');
          if (e.key !== 'Enter' || down) return;
          e.preventDefault();
          e.stopPropagation();
          urgent();
        }}
      />
      <Button look="air" unusable={down ?? (text.trim() === '' ? 'Write the item first.' : null)} onClick={urgent}>
        Next
      </Button>
    </section>
  );
}

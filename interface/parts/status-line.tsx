/** The line at the foot of every page: what is said to the crew, in a place that covers nothing. */
import clsx from 'clsx';
import { Check, ChevronUp, Info, LoaderCircle, TriangleAlert, X } from 'lucide-react';
import { useHere, openPanel } from '../client/here';
import { over, type Said, type Tone, useSaid } from '../client/say';
import { useKeyName } from '../client/hands';
import { withKey } from './button';
import { Popover } from './popover';

const ICONS = { info: Info, good: Check, working: LoaderCircle, caution: TriangleAlert, trouble: TriangleAlert };
const TONES: Record<Tone, string> = {
  info: 'text-text',
  good: 'text-next',
  working: 'text-straw',
  caution: 'bg-caution text-deep',
  trouble: 'bg-air text-deep font-semibold',
};

const clock = (at: number) => new Date(at).toLocaleTimeString('en-GB');

function Entry({ said }: { said: Said }) {
  const Icon = ICONS[said.tone];
  return (
    <li className={clsx('flex items-start gap-2 border-b border-line px-2 py-1.5', said.over && 'text-muted')}>
      <Icon
        size={15}
        aria-label={said.tone}
        className={clsx(
          'mt-0.5 shrink-0',
          !said.over && said.tone === 'trouble' && 'text-air',
          !said.over && said.tone === 'caution' && 'text-caution',
        )}
      />
      <time className="figures text-[13px] text-muted">{clock(said.at)}</time>
      <span className="min-w-0 flex-1">{said.text}</span>
      {!said.over && (
        <button
          type="button"
          aria-label="Read"
          className="grid h-7 w-7 place-items-center text-muted hover:text-text"
          onClick={() => over(said.id)}
        >
          <X size={14} />
        </button>
      )}
    </li>
  );
}

/** The newest of what is said and not over; the rest is under one press. */
export function StatusLine() {
  const list = useSaid((s) => s.list);
  const open = useHere((s) => s.open === 'notices');
  const key = useKeyName('notices');
  const standing = list.filter((s) => !s.over);
  const now = standing.at(-1);
  const Icon = now ? ICONS[now.tone] : Info;
  return (
    <footer
      className="status-line fixed inset-x-0 bottom-0 z-50 flex items-center border-t border-line bg-panel text-[13px]"
      aria-label="Notices"
    >
      <div id="status-slot" className="flex h-full min-w-0 shrink items-stretch" />
      <div role="status" className={clsx('flex h-full min-w-0 flex-1 items-center gap-2 px-3', now && TONES[now.tone])}>
        {now && (
          <>
            <Icon size={15} className={clsx('shrink-0', now.tone === 'working' && 'motion-safe:animate-spin')} aria-hidden />
            <span className="truncate" title={now.text}>
              {now.text}
            </span>
          </>
        )}
      </div>
      {now?.action && (
        <button
          type="button"
          className="h-full px-3 font-semibold text-straw underline"
          onClick={() => (now.action?.onClick(), over(now.id))}
        >
          {now.action.label}
        </button>
      )}
      {now && (now.tone === 'caution' || now.tone === 'trouble') && (
        <button
          type="button"
          aria-label="Read"
          title="Read: it stays in the list"
          className="grid h-full w-8 place-items-center text-muted hover:text-text"
          onClick={() => over(now.id)}
        >
          <X size={14} />
        </button>
      )}
      <Popover
        label="Notices"
        align="end"
        side="top"
        className="z-50 max-h-[60vh] w-[min(640px,94vw)] overflow-auto rounded border border-line bg-panel shadow-2xl"
        open={open}
        onOpenChange={(next) => openPanel(next ? 'notices' : null)}
        trigger={
          <button
            type="button"
            className="figures flex h-full items-center gap-1 border-l border-line px-3 text-muted hover:text-text"
            aria-label={standing.length > 1 ? `What was said lately: ${standing.length} notices` : 'What was said lately'}
            title={withKey('What was said lately', key)}
          >
            {standing.length > 1 ? `${standing.length} notices` : 'Notices'} <ChevronUp size={14} />
          </button>
        }
      >
        <ul aria-label="What was said lately">
          {list.length === 0 && <li className="p-3 text-muted">Nothing was said yet. Refusals, troubles and good news are kept here.</li>}
          {[...list].reverse().map((said) => (
            <Entry key={said.id} said={said} />
          ))}
        </ul>
      </Popover>
    </footer>
  );
}

/** Signs of tally: told by shape as well as colour. */
import { type Tally } from '#core/picture/tally';

const CORNERS = [
  'top-0 left-0 border-t-4 border-l-4',
  'top-0 right-0 border-t-4 border-r-4',
  'bottom-0 left-0 border-b-4 border-l-4',
  'right-0 bottom-0 border-r-4 border-b-4',
];

export const tallyWords = (t: Tally): string =>
  [t.onAir && 'on air', t.inUse && 'in use on air', t.next && 'next', t.nextInUse && 'comes with the next take']
    .filter(Boolean)
    .join(', ') || 'not in use';

/**
 * Lies over a picture. On air: solid frame, filled tab. Next: corner brackets, outlined tab. In use: thin frame, tab.
 * `name` stands beside the tab, at the top, where no lower third is.
 */
export function TallyFrame({ tally, small, name }: { tally: Tally; small?: boolean; name?: string }) {
  const tab = `figures shrink-0 font-semibold leading-none ${small ? 'px-1.5 py-0.5 text-[13px]' : 'px-3 py-1 text-base'}`;
  return (
    <div className="pointer-events-none absolute inset-0" aria-hidden>
      {tally.onAir && <div className={`absolute inset-0 ${small ? 'border-4' : 'border-[5px]'} border-air`} />}
      {!tally.onAir && tally.inUse && <div className="absolute inset-0 border-2 border-air" />}
      {tally.next && CORNERS.map((c) => <div key={c} className={`absolute ${small ? 'h-5 w-6' : 'h-9 w-12'} border-next ${c}`} />)}
      <div className="absolute top-0 left-1/2 flex max-w-[70%] -translate-x-1/2 items-stretch">
        {tally.onAir && <span className={`${tab} bg-air text-deep`}>AIR</span>}
        {!tally.onAir && tally.inUse && <span className={`${tab} border-2 border-t-0 border-air bg-deep text-air`}>IN</span>}
        {tally.next && !tally.onAir && !tally.inUse && (
          <span className={`${tab} border-2 border-t-0 border-next bg-deep text-next`}>NEXT</span>
        )}
        {name && <span className="truncate bg-deep/85 px-2 leading-6 font-semibold">{name}</span>}
      </div>
    </div>
  );
}

/** What is left of what plays, and how much there is. */
import { deckSource } from '#core/replay/transport';
import clsx from 'clsx';
import { useMemo, useDeferredValue } from 'react';
import { rollLeft, deckPlace } from '#core/replay/deck';
import { DECKS } from '#core/replay/air';
import { clipsOf } from '#core/replay/document';
import { clipsFrames } from '#core/replay/roll';
import { formatLength } from '#core/time/spoken';
import { useShow, useLive } from '../client/show-client';
import { useRoom } from './room-state';

function Total({ label, count, frames, tone }: { label: string; count?: number; frames: string; tone?: 'caution' | 'air' | undefined }) {
  return (
    <div
      className={clsx(
        'min-w-0 flex-1 px-2 py-1 max-wide:px-1.5',
        tone === 'caution' && 'bg-caution text-deep',
        tone === 'air' && 'bg-air text-deep',
      )}
    >
      <div className={clsx('text-[13px]', !tone && 'text-muted')}>
        {label}
        {count !== undefined && <span className="figures"> · {count}</span>}
      </div>
      <div
        className="figures text-[26px] leading-none font-semibold whitespace-nowrap max-wide:text-[19px]"
        aria-label={`Running time of ${label}`}
      >
        {frames.split(' ')[0]}
        {/* Frames look unlike seconds. */}
        <span className="text-[17px] font-normal max-wide:text-[14px]">{frames.includes(' ') ? ` ${frames.split(' ')[1]}` : ''}</span>
      </div>
    </div>
  );
}

/** Time left of whatever plays out on air, else on the chosen deck. */
function Left() {
  const deck = useRoom((s) => s.deck);
  const { text, ends, onAir } = useLive(({ desk: { show, air }, frame }) => {
    const isOnAir = (n: 1 | 2) => air.onAirId !== null && deckSource({ show }, n)?.id === air.onAirId;
    const shown = DECKS.find((n) => isOnAir(n) && air.replay.decks[n].roll) ?? deck;
    const state = air.replay.decks[shown];
    const left = rollLeft(state, deckPlace(state, air.replay, frame, show.rate));
    if (!left) return { text: '–:––:––', ends: false, onAir: false };
    const second = show.rate.num / show.rate.den;
    return {
      text: Number.isFinite(left.all) ? formatLength(left.all, show.rate) : 'loops',
      ends: left.all > 0 && left.all <= 10 * second && state.motion.kind === 'play',
      onAir: isOnAir(shown),
    };
  });
  return (
    <Total label={onAir ? 'Left on air' : 'Left'} frames={text} tone={ends ? 'caution' : onAir && text !== '–:––:––' ? 'air' : undefined} />
  );
}

/** "How much have you got?": running times of the chosen clips and of the reel, and what is left. */
export function Totals() {
  const chosen = useRoom((s) => s.chosen);
  const now = useShow(({ desk: { show } }) => ({ replay: show.replay, rate: show.rate }));
  // Running times of thousands may be a moment later than the list.
  const { replay, rate } = useDeferredValue(now);
  const { clips, reelId, settings } = replay;
  const join = settings.join === 'dissolve' ? settings.joinFrames : 0;
  const reel = useMemo(() => clipsOf(replay, reelId), [replay, reelId]);
  const selection = useMemo(() => {
    const ids = new Set(chosen);
    return clips.filter((c) => ids.has(c.id));
  }, [clips, chosen]);
  return (
    <div className="flex divide-x divide-line border-b border-line">
      <Total label="Chosen" count={selection.length} frames={formatLength(clipsFrames(selection, join), rate)} />
      <Total label="Reel" count={reel.length} frames={formatLength(clipsFrames(reel, join), rate)} />
      <Left />
    </div>
  );
}

/** A deck: its picture, where it stands, and its keys. */
import { deckSource } from '#core/replay/transport';
import clsx from 'clsx';
import { RotateCcw, SkipBack, SkipForward } from 'lucide-react';
import { type ReactNode } from 'react';
import { type DeckNumber, type ReplayAir } from '#core/replay/air';
import { deckKey } from '#core/panels/held';
import { deckPlace, rollLeft } from '#core/replay/deck';
import { totalFrames } from '#core/replay/roll';
import { type Rate } from '#core/time/rate';
import { formatTimecode } from '#core/time/timecode';
import { pictureName } from '#core/desk/pictures';
import { type ActionArgs } from '#core/control/action';
import { useHands } from '../client/hands';
import { useShow, useSend, useLive } from '../client/show-client';
import { useRoving } from '../parts/roving';
import { region } from '../parts/region';
import { useTally } from '../client/use-tally';
import { Button } from '../parts/button';
import { HeldBy } from '../parts/held-by';
import { NumberField } from '../parts/number-field';
import { Monitor } from '../parts/monitor';
import { TallyFrame } from '../parts/tally-frame';
import { setRoom, useRoom } from './room-state';
import { behindText, motionText } from './words';
import { formatLength } from '#core/time/spoken';

/** How far behind the present a deck is: a filled block when live, large figures when not. */
function Sign({ deck }: { deck: DeckNumber }) {
  const { live, behind, code, motion, left, all, ends, clip } = useLive(({ desk: { show, air }, frame }) => {
    const state = air.replay.decks[deck];
    const place = deckPlace(state, air.replay, frame, show.rate);
    const rest = rollLeft(state, place);
    const item = place.roll ? state.roll?.items[place.roll.index] : undefined;
    return {
      live: place.live,
      behind: behindText(frame - place.position, show.rate),
      code: formatTimecode(Math.floor(place.position), show.rate),
      motion: motionText(place.live ? 1 : place.rate, state.motion.kind),
      left: rest ? formatLength(rest.item, show.rate) : null,
      all: rest ? (Number.isFinite(rest.all) ? formatLength(rest.all, show.rate) : 'loops') : null,
      ends: rest !== null && rest.all < 10 * (show.rate.num / show.rate.den) && rest.all > 0,
      clip: item && place.roll && state.roll ? `${place.roll.index + 1}/${state.roll.items.length} ${item.name}` : null,
    };
  });
  return (
    <div className="flex min-h-[62px] items-stretch border-t border-line">
      <div
        role="status"
        aria-label={live ? `Deck ${deck} is live` : `Deck ${deck} is ${behind} behind`}
        className={clsx(
          'figures grid w-[142px] shrink-0 place-items-center text-[27px] leading-none font-semibold',
          live ? 'bg-text text-deep' : 'border-l-[10px] border-straw bg-raised text-straw',
        )}
      >
        {live ? 'LIVE' : behind}
      </div>
      <div className={clsx('flex shrink-0 flex-col justify-center px-2 whitespace-nowrap', all === null && 'flex-1')}>
        <span className="figures text-[17px] leading-tight">{code}</span>
        <span className="figures text-[15px] text-muted" aria-label={`Motion ${motion}`}>
          {motion}
        </span>
      </div>
      {all !== null && (
        <div className={clsx('flex min-w-0 flex-1 flex-col items-end justify-center px-2', ends && 'bg-caution text-deep')}>
          <span className="figures text-[24px] leading-tight font-semibold" aria-label="Time left of everything">
            {all}
          </span>
          <span className={clsx('figures max-w-full truncate text-[13px]', !ends && 'text-muted')} title={clip ?? ''}>
            {left} · {clip}
          </span>
        </div>
      )}
    </div>
  );
}

function Angles({ deck }: { deck: DeckNumber }) {
  const send = useSend();
  const shown = useLive(({ desk: { show, air }, frame }) => deckPlace(air.replay.decks[deck], air.replay, frame, show.rate).angleId);
  const show = useShow(({ desk }) => desk.show);
  return (
    <div className="flex min-w-0 flex-1 gap-1" role="group" aria-label={`Angle of deck ${deck}`}>
      {show.replay.angles.map(({ pictureId: sourceId }, i) => (
        <Button
          key={sourceId}
          pressed={shown === sourceId}
          className={clsx('figures min-w-8 px-1.5!', shown === sourceId && 'bg-straw! text-deep!')}
          title={pictureName(show, sourceId)}
          keyFor="replay.angle"
          keyArgs={{ number: i + 1 }}
          onClick={() => send('deck.setAngle', { deck, angle: sourceId })}
        >
          {i + 1}
        </Button>
      ))}
      <span className="min-w-0 truncate self-center pl-1 text-muted">{pictureName(show, shown)}</span>
    </div>
  );
}

/** The speed that play has: of the piece that plays out, or the deck's own. */
function speedOf(replay: ReplayAir, number: DeckNumber, frame: number, rate: Rate): number {
  const deck = replay.decks[number];
  const place = deck.roll && deckPlace(deck, replay, frame, rate);
  return deck.roll?.items[place?.roll?.index ?? -1]?.speed ?? deck.speed;
}

function Transport({ deck }: { deck: DeckNumber }) {
  const send = useSend();
  const speeds = useHands((h) => h.speeds);
  const { speed, rolling, sourceId } = useLive(({ desk: { show, air }, frame }) => ({
    speed: speedOf(air.replay, deck, frame, show.rate),
    rolling: air.replay.decks[deck].roll !== null,
    sourceId: deckSource({ show }, deck)?.id ?? null,
  }));
  const press = (
    label: ReactNode,
    title: string,
    action: string,
    type: string,
    args: Record<string, unknown> = {},
    keyArgs: ActionArgs = {},
  ) => (
    <Button
      className="figures min-w-7 flex-auto px-0.5!"
      title={title}
      keyFor={action}
      keyArgs={keyArgs}
      aria-label={`${title}, deck ${deck}`}
      onClick={() => send(type, { deck, ...args })}
    >
      {label}
    </Button>
  );
  return (
    <div className="flex flex-col gap-1 p-1.5">
      <div className="flex gap-1">
        {press('◀◀', 'Shuttle backwards', 'replay.back', 'deck.shuttleOn', { direction: 'backwards' })}
        {press('◀', 'Play backwards', 'replay.reverse', 'deck.reverse')}
        {press('−10', 'Ten frames back', 'replay.step', 'deck.step', { frames: -10 }, { frames: -10 })}
        {press('−1', 'One frame back', 'replay.step', 'deck.step', { frames: -1 }, { frames: -1 })}
        {press('▶ ❙❙', 'Play or pause', 'replay.toggle', 'deck.toggle')}
        {press('+1', 'One frame on', 'replay.step', 'deck.step', { frames: 1 }, { frames: 1 })}
        {press('+10', 'Ten frames on', 'replay.step', 'deck.step', { frames: 10 }, { frames: 10 })}
        {press('▶▶', 'Shuttle forwards', 'replay.on', 'deck.shuttleOn', { direction: 'forwards' })}
        {press(<span className="px-0.5">Live</span>, 'Jump to live', 'replay.live', 'deck.jump', { to: 'live' })}
      </div>
      <div className="flex items-center gap-1.5">
        <input
          type="range"
          aria-label={`Speed of deck ${deck}`}
          className="min-w-16 flex-1"
          min={1}
          max={200}
          value={speed}
          onChange={(e) => send('deck.setSpeed', { deck, speed: Number(e.target.value) })}
        />
        <NumberField
          className="w-[74px]"
          label={`Speed of deck ${deck}, typed`}
          unit="%"
          min={1}
          max={200}
          value={speed}
          onCommit={(value) => send('deck.setSpeed', { deck, speed: Math.round(value) })}
        />
        {speeds.map((s) => (
          <Button
            key={s}
            className="figures px-1.5!"
            pressed={speed === s}
            title={`Speed ${s} %`}
            keyFor="replay.speed"
            keyArgs={{ speed: s }}
            onClick={() => send('deck.setSpeed', { deck, speed: s })}
          >
            {s}
          </Button>
        ))}
        {rolling && (
          <>
            {press(<SkipBack size={15} />, 'Piece before', 'replay.previous', 'roll.previous')}
            {press(<SkipForward size={15} />, 'Next piece', 'replay.next', 'roll.next')}
            {press(<RotateCcw size={15} />, 'From the beginning', 'replay.again', 'roll.again')}
          </>
        )}
        <Button
          className="px-2!"
          unusable={sourceId === null ? 'Add an angle first: the decks are then among the sources.' : null}
          title="Put this deck into Next"
          onClick={() => sourceId !== null && send('picture.setNext', { picture: sourceId })}
        >
          Next
        </Button>
      </div>
    </div>
  );
}

function DeckTally({ id, name }: { id: string; name: string }) {
  return <TallyFrame small tally={useTally(id)} name={name} />;
}

/** One deck: its picture, where it is, how it moves. */
export function DeckPanel({ deck }: { deck: DeckNumber }) {
  const send = useSend();
  const chosen = useRoom((s) => s.deck === deck);
  const box = useRoving<HTMLElement>();
  const { sourceId, gang, total } = useShow(({ desk: { show, air } }) => {
    const { roll } = air.replay.decks[deck];
    return {
      sourceId: deckSource({ show }, deck)?.id ?? null,
      gang: air.replay.gang,
      total: roll ? formatLength(totalFrames(roll.items, roll.joinFrames), show.rate) : null,
    };
  });
  return (
    <section
      ref={box}
      {...region(`deck-${deck}`, `Deck ${deck}`)}
      style={{ contain: 'layout paint' }}
      className={clsx('flex min-w-0 flex-col border-t-4 bg-panel', chosen ? 'border-straw' : 'border-transparent')}
      onPointerDown={() => setRoom({ deck })}
    >
      <header className="flex items-center gap-2 px-1.5 py-1">
        <Button
          pressed={chosen}
          className={clsx('font-semibold', chosen && 'bg-straw/15')}
          title={`Keys work on deck ${deck}`}
          keyFor="replay.deck"
        >
          Deck {deck}
        </Button>
        <Angles deck={deck} />
        <Button
          pressed={gang}
          title="Both decks go together, each on its own angle"
          keyFor="replay.gang"
          onClick={() => send('deck.gang', { deck })}
        >
          Gang
        </Button>
        <HeldBy id={deckKey(deck)} className="max-w-28 text-straw" />
        {total !== null && (
          <span className="figures text-muted" title="Running time of what stands on the deck">
            {total}
          </span>
        )}
      </header>
      <div className="relative aspect-video w-full bg-deep">
        {sourceId === null ? (
          <p className="grid h-full place-items-center p-4 text-center text-muted">
            Choose the angles to record; then both decks play them.
          </p>
        ) : (
          <>
            <Monitor picture={{ kind: 'picture', id: sourceId }} label={`Picture of deck ${deck}`} className="absolute inset-0" />
            <DeckTally id={sourceId} name="" />
          </>
        )}
      </div>
      <Sign deck={deck} />
      <Transport deck={deck} />
    </section>
  );
}

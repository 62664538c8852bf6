/** The crew, in the bar: who is there, who speaks, and a key to hold for speaking to all or to one. Never in the show. */
import { Headphones, Megaphone } from 'lucide-react';
import { type ReactNode, useEffect, useRef } from 'react';
import { useStore } from 'zustand';
import { TO_ALL } from '#core/panels/sound-line';
import { type CrewState, type Listening, type ShowCrew } from '#engine/client/show-client';
import { setCrewTarget, useCrewTarget } from '../client/crew-target';
import { useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { HeldButton } from '../parts/held-button';
import { LevelSlider } from '../parts/level-slider';
import { Popover } from '../parts/popover';

/** Speaks while it is held. */
function HoldToTalk({ crew, to, label, children }: { crew: ShowCrew; to: string; label: string; children: ReactNode }) {
  const speaks = useStore(crew.store, (s) => s.to === to);
  return (
    <HeldButton
      active={speaks}
      className="min-w-24"
      aria-label={label}
      title={`${label}. It is never heard in the show.`}
      onBegin={() => crew.talk(to)}
      onEnd={() => crew.end()}
    >
      {children}
    </HeldButton>
  );
}

/** Everybody once, with whether they speak. */
function peopleOf({ members, you, speaking }: CrewState) {
  const self = members.find((m) => m.number === you)?.id ?? null;
  const people = new Map<string, { id: string; name: string; speaks: boolean; toYou: boolean }>();
  for (const { id, name, number, to } of members) {
    if (id === self) continue;
    const known = people.get(id);
    const speaks = to !== null || speaking.includes(number);
    people.set(id, { id, name, speaks: speaks || known?.speaks === true, toYou: to === self || known?.toYou === true });
  }
  return [...people.values()];
}

export function Crew() {
  const { crew, panel } = useShowClient();
  const state = useStore(crew.store);
  const chosen = useCrewTarget((s) => s.chosen);
  const people = peopleOf(state);
  const speakers = people.filter((p) => p.speaks);
  const last = speakers[0]?.id;
  useEffect(() => {
    if (last !== undefined) useCrewTarget.setState({ last });
  }, [last]);
  // Alone, there is nobody to talk to; a panel says so.
  if (!panel && people.length === 0) return null;
  const talking = state.to !== null;
  return (
    <Popover
      label="Crew"
      align="end"
      trigger={
        <Button
          className={speakers.length > 0 || talking ? 'border-straw! text-straw!' : ''}
          title="Who works the show now; talk to them"
          aria-label={`Crew: ${people.length === 1 ? 'one other' : `${people.length} others`}${speakers[0] ? `, ${speakers[0].name} speaks` : ''}`}
        >
          <Megaphone size={14} />
          <span className="figures inline-block max-w-24 min-w-6 truncate text-left">
            {talking ? 'talk' : speakers[0] ? speakers[0].name : people.length}
          </span>
        </Button>
      }
    >
      <div className="grid w-72 gap-2" data-crew={people.length}>
        <div className="flex items-center justify-between gap-2">
          <span className="font-semibold">Everybody</span>
          <HoldToTalk crew={crew} to={TO_ALL} label="Hold to talk to everybody">
            Hold: all
          </HoldToTalk>
        </div>
        {people.length === 0 && <p className="text-muted">Nobody else is here now.</p>}
        {people.map(({ id, name, speaks, toYou }) => (
          <div key={id} className="flex items-center justify-between gap-2">
            <label className="flex min-w-0 items-center gap-2" title="The one whom the crew key for one speaks to">
              <input type="radio" name="crew-target" checked={chosen === id} onChange={() => setCrewTarget(id)} />
              <span className={`truncate ${speaks ? 'text-straw' : ''}`}>{name}</span>
              {speaks && <span className="shrink-0 text-[13px] text-straw">{toYou ? 'to you' : 'speaks'}</span>}
            </label>
            <HoldToTalk crew={crew} to={id} label={`Hold to talk to ${name}`}>
              Hold: talk
            </HoldToTalk>
          </div>
        ))}
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={state.hearing} onChange={(e) => crew.setHearing(e.target.checked)} /> Hear the crew
        </label>
        <label className="flex items-center gap-2 text-muted">
          How loud
          <LevelSlider label="How loud the crew is here" className="flex-1" first={1} onChange={(level) => crew.setLevel(level)} />
        </label>
        {state.microphone === 'open' && <p className="text-[13px] text-muted">The microphone is open; it is sent while you hold.</p>}
        {state.message !== '' && (
          <p role="alert" className="text-caution">
            {state.message}
          </p>
        )}
      </div>
    </Popover>
  );
}

/** A thin bar of what is heard, so that one sees that something comes. */
function Heard({ listening }: { listening: Listening }) {
  const bar = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const timer = setInterval(() => {
      if (bar.current) bar.current.style.transform = `scaleX(${Math.sqrt(listening.peak)})`;
    }, 80);
    return () => clearInterval(timer);
  }, [listening]);
  return <span ref={bar} aria-hidden className="absolute inset-x-0 bottom-0 h-0.5 origin-left bg-straw" />;
}

/** At a panel: what this person hears comes along when it is wanted. */
export function Listen() {
  const { sound } = useShowClient();
  return sound.listening ? <ListenButton listening={sound.listening} /> : null;
}

function ListenButton({ listening }: { listening: Listening }) {
  const { on, message } = useStore(listening.store);
  return (
    <Button
      className="relative"
      pressed={on}
      title={
        message || (on ? 'You hear what you have chosen in Sound; press to end it' : 'Hear the programme here, or what you choose in Sound')
      }
      onClick={() => (on ? listening.off() : listening.on())}
    >
      <Headphones size={14} /> {message === '' ? 'Listen' : 'silent'}
      {on && <Heard listening={listening} />}
    </Button>
  );
}

/** The page that a guest opens by their link: choose devices, see and hear that they work, say one's name, agree, and take part. Works on a phone. */
import { useEffect, useRef, useState } from 'react';
import { useParams } from 'react-router';
import { LONGEST_GUEST_NAME } from '#core/guests/document';
import { causeOf } from '#core/schema/cause';
import { whyNotHere } from '#engine/guests/devices';
import { type GuestDevice, type GuestDevices } from '#engine/guests/driver';
import { Visit } from '#engine/guests/visit';
import { Button } from '../parts/button';
import { OwnPicture } from './own-picture';
import { MicrophoneLevel } from './microphone-level';
import { VisitView } from './visit-view';

declare global {
  interface Window {
    /** The visit of this page, for whoever measures. */
    bivocaVisit?: Visit | undefined;
  }
}

const keptUnder = (showId: string): string => `bivoca.guest ${showId}`;

/** The secret of the address, kept in this tab, and taken out of the address. */
function takeSecret(showId: string): string | null {
  const given = new URLSearchParams(window.location.hash.slice(1)).get('guest');
  try {
    if (given !== null) {
      sessionStorage.setItem(keptUnder(showId), given);
      window.history.replaceState(window.history.state, '', window.location.pathname + window.location.search);
    }
    return given ?? sessionStorage.getItem(keptUnder(showId));
  } catch {
    return given;
  }
}

/** Of this browser: with it a guest who loads the page anew comes back to the same place. */
function deviceId(number: string | null): string {
  const key = `bivoca.guest device${number ?? ''}`;
  try {
    const known = localStorage.getItem(key);
    if (known) return known;
    const made = crypto.randomUUID();
    localStorage.setItem(key, made);
    return made;
  } catch {
    return crypto.randomUUID();
  }
}

function Devices({
  kind,
  label,
  devices,
  value,
  onChange,
}: {
  kind: GuestDevice['kind'];
  label: string;
  devices: readonly GuestDevice[];
  value: string;
  onChange: (id: string) => void;
}) {
  const own = devices.filter((d) => d.kind === kind);
  return (
    <label className="flex flex-col gap-0.5">
      <span className="text-muted">{label}</span>
      <select className="min-h-11" value={value} onChange={(e) => onChange(e.target.value)}>
        {own.length === 0 && <option value="">None found</option>}
        {own.map((d) => (
          <option key={d.id} value={d.id}>
            {d.name}
          </option>
        ))}
      </select>
    </label>
  );
}

interface JoinPageProps {
  /** Devices of this guest: real ones, or drawn ones for a simulated guest. */
  devicesFor: (simulated: { name: string; number: number } | null) => GuestDevices;
}

interface Ready {
  name: string;
  hears: 'loudspeaker' | 'headphones' | 'unknown';
  stream: MediaStream;
}

function Prepare({ devices, simulated, onReady }: { devices: GuestDevices; simulated: boolean; onReady: (ready: Ready) => void }) {
  const [stream, setStream] = useState<MediaStream | null>(null);
  const [known, setKnown] = useState<readonly GuestDevice[]>([]);
  const [choice, setChoice] = useState({ camera: '', microphone: '' });
  const [name, setName] = useState('');
  const [agreed, setAgreed] = useState(false);
  const [hears, setHears] = useState<Ready['hears']>('unknown');
  const [trouble, setTrouble] = useState('');
  const [silent, setSilent] = useState(false);
  const [attempt, setAttempt] = useState(0);
  useEffect(() => {
    let over = false;
    devices.open(choice).then(
      async (opened) => {
        if (over) return opened.getTracks().forEach((t) => t.stop());
        setTrouble('');
        setStream((before) => {
          before?.getTracks().forEach((t) => t.stop());
          return opened;
        });
        setKnown(await devices.list());
        return undefined;
      },
      (error: unknown) => void (!over && setTrouble(causeOf(error))),
    );
    return () => {
      over = true;
    };
  }, [devices, choice, attempt]);
  const of = (kind: 'video' | 'audio') =>
    stream
      ?.getTracks()
      .find((t) => t.kind === kind)
      ?.getSettings().deviceId ?? '';
  const ready = stream !== null && name.trim() !== '' && agreed;
  const why = stream === null ? 'Camera or microphone is not open yet.' : name.trim() === '' ? 'Say your name first.' : 'Agree first.';
  return (
    <form
      className="mx-auto flex max-w-xl flex-col gap-3 p-4"
      onSubmit={(e) => {
        e.preventDefault();
        if (ready) onReady({ name: name.trim(), hears, stream });
      }}
    >
      <h1 className="text-2xl font-semibold">Join the show</h1>
      {trouble !== '' && (
        <div role="alert" className="flex flex-col items-start gap-2 border border-caution p-3 text-caution">
          {trouble}
          <Button onClick={() => setAttempt(attempt + 1)}>Try again</Button>
        </div>
      )}
      <OwnPicture stream={stream} className="aspect-video w-full" />
      {stream && <MicrophoneLevel stream={stream} onSilence={setSilent} />}
      {silent && (
        <p role="status" className="text-caution">
          Your microphone gives silence. Say something; if nothing moves, choose another or look whether it is switched off at its cable.
        </p>
      )}
      {stream && stream.getVideoTracks().length === 0 && <p className="text-caution">No camera was found: you are heard, and not seen.</p>}
      <Devices
        kind="videoinput"
        label="Camera"
        devices={known}
        value={choice.camera || of('video')}
        onChange={(camera) => setChoice({ ...choice, camera })}
      />
      <Devices
        kind="audioinput"
        label="Microphone"
        devices={known}
        value={choice.microphone || of('audio')}
        onChange={(microphone) => setChoice({ ...choice, microphone })}
      />
      <fieldset className="flex flex-col gap-1">
        <legend className="text-muted">How do you hear us?</legend>
        {(
          [
            ['headphones', 'Headphones: best, nothing comes back'],
            ['loudspeaker', 'Loudspeaker'],
          ] as const
        ).map(([value, words]) => (
          <label key={value} className="flex min-h-11 items-center gap-2">
            <input type="radio" name="hears" checked={hears === value} onChange={() => setHears(value)} /> {words}
          </label>
        ))}
      </fieldset>
      <label className="flex flex-col gap-0.5">
        <span className="text-muted">Your name</span>
        <input className="min-h-11" maxLength={LONGEST_GUEST_NAME} value={name} onChange={(e) => setName(e.target.value)} />
      </label>
      <label className="flex min-h-11 items-start gap-2">
        <input type="checkbox" className="mt-1" checked={agreed} onChange={(e) => setAgreed(e.target.checked)} />
        <span>I know that this show is recorded and may be streamed to the public, and I agree to be seen and heard in it.</span>
      </label>
      <Button look="straw" type="submit" className="min-h-12 text-lg" unusable={ready ? null : why}>
        Join
      </Button>
      <p className="text-muted">
        You come into the green room first: only the crew sees and hears you there. {simulated && 'This is a simulated guest.'}
      </p>
    </form>
  );
}

export function JoinPage({ devicesFor }: JoinPageProps) {
  const { showId = '' } = useParams();
  const [secret] = useState(() => takeSecret(showId));
  const [query] = useState(() => new URLSearchParams(window.location.search));
  const number = query.get('simulated');
  const [simulated] = useState(() =>
    number === null ? null : { name: (query.get('name') ?? 'Simulated guest').slice(0, LONGEST_GUEST_NAME), number: Number(number) || 0 },
  );
  const [devices] = useState(() => devicesFor(simulated));
  const [visit, setVisit] = useState<{ visit: Visit; stream: MediaStream } | null>(null);
  const [why] = useState(whyNotHere);
  const join = ({ name, hears, stream }: Ready) => {
    const about = { said: name, hears, agreedAt: Date.now(), trouble: '' };
    const made = new Visit({ show: showId, secret: secret ?? '', device: deviceId(number) }, stream, about);
    window.bivocaVisit = made;
    setVisit({ visit: made, stream });
  };
  // A simulated guest joins without anybody's press.
  const begun = useRef(false);
  useEffect(() => {
    if (!simulated || begun.current) return;
    begun.current = true;
    void devices.open({ camera: '', microphone: '' }).then((stream) => join({ name: simulated.name, hears: 'headphones', stream }));
  });
  useEffect(() => {
    const close = () => window.bivocaVisit?.close();
    window.addEventListener('pagehide', close);
    return () => window.removeEventListener('pagehide', close);
  }, []);
  if (why !== null || secret === null)
    return (
      <main className="mx-auto max-w-xl p-6">
        <p role="alert">{why ?? 'This address needs a link: open the whole one that was sent to you.'}</p>
      </main>
    );
  return (
    <main className="h-full overflow-auto">
      {visit ? (
        <VisitView visit={visit.visit} devices={devices} stream={visit.stream} />
      ) : (
        !simulated && <Prepare devices={devices} simulated={false} onReady={join} />
      )}
    </main>
  );
}

/** Adding sources: cameras, screens, files, test pictures, colours, simulated cameras. */
import { Camera, FileVideo, MonitorUp, Palette, RadioTower, TestTube2, Video } from 'lucide-react';
import { type ReactNode, useCallback, useEffect, useRef, useState } from 'react';
import { over, say, sayShare } from '../client/say';
import { causeOf } from '#core/schema/cause';
import { CAMERA_NAMES, SIMULATED_CAMERAS, type SourceSettings } from '#core/show/source';
import { listDevices } from '#engine/capture/device-driver';
import { useShowClient, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { Dialog } from '../parts/dialog';

/** Takes files in and makes a source of each; what cannot be used is said, the rest goes on. */
export function useAddFiles(): (files: File[]) => Promise<void> {
  const client = useShowClient();
  const send = useSend();
  return useCallback(
    async (files) => {
      for (const file of files) {
        const { id: waiting, share } = sayShare(`Taking in ${file.name}`);
        try {
          const settings = await client.files.add(file, share);
          if (send('source.add', { name: file.name.replace(/\.[^.]+$/, '').slice(0, 80) || 'File', settings }))
            say.good(`${file.name} is in the list.`, { id: waiting });
          else over(waiting);
        } catch (error) {
          say.trouble(causeOf(error), { id: waiting, duration: 8000 });
        }
      }
    },
    [client, send],
  );
}

function Section({ icon, title, children }: { icon: ReactNode; title: string; children: ReactNode }) {
  return (
    <section className="flex items-start gap-3 border-t border-line pt-3">
      <span className="mt-1 text-straw">{icon}</span>
      <div className="min-w-0 flex-1">
        <h3 className="font-semibold">{title}</h3>
        {children}
      </div>
    </section>
  );
}

const SIZES: [string, number, number][] = [
  ['As the device likes', 0, 0],
  ['1920 × 1080', 1920, 1080],
  ['1280 × 720', 1280, 720],
  ['640 × 360', 640, 360],
];

/** Choice of camera, microphone and format; labels come once the browser has given permission. */
export function CameraForm({ onChoose, verb }: { onChoose: (name: string, settings: SourceSettings) => void; verb: string }) {
  const [devices, setDevices] = useState<Awaited<ReturnType<typeof listDevices>>>({ cameras: [], microphones: [] });
  const [camera, setCamera] = useState('');
  const [microphone, setMicrophone] = useState('none');
  const [size, setSize] = useState(0);
  const [rate, setRate] = useState(0);
  const refresh = useCallback(async () => setDevices(await listDevices()), []);
  useEffect(() => void refresh(), [refresh]);
  const ask = async () => {
    try {
      const stream = await navigator.mediaDevices.getUserMedia({ video: true, audio: true });
      stream.getTracks().forEach((t) => t.stop());
    } catch (error) {
      say.caution(`The browser gave no camera: ${causeOf(error)}. Plug one in, or allow it at the address bar.`);
    }
    await refresh();
  };
  const named = devices.cameras.some((d) => d.label !== '');
  const choose = () => {
    const device = devices.cameras.find((d) => d.deviceId === camera) ?? devices.cameras[0];
    const mic = microphone === 'none' ? null : devices.microphones.find((d) => d.deviceId === microphone);
    const [, width = 0, height = 0] = SIZES[size] ?? [];
    onChoose(device?.label || 'Camera', {
      kind: 'camera',
      deviceId: device?.deviceId ?? '',
      deviceLabel: device?.label ?? '',
      width,
      height,
      frameRate: rate,
      audioDeviceId: mic ? mic.deviceId : null,
      audioDeviceLabel: mic?.label ?? '',
    });
  };
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2">
      {!named && <Button onClick={() => void ask()}>Find cameras</Button>}
      {named && (
        <>
          <select aria-label="Camera" className="max-w-52" value={camera} onChange={(e) => setCamera(e.target.value)}>
            {devices.cameras.map((d) => (
              <option key={d.deviceId} value={d.deviceId}>
                {d.label}
              </option>
            ))}
          </select>
          <select aria-label="Microphone" className="max-w-52" value={microphone} onChange={(e) => setMicrophone(e.target.value)}>
            <option value="none">No sound</option>
            {devices.microphones.map((d) => (
              <option key={d.deviceId} value={d.deviceId}>
                {d.label}
              </option>
            ))}
          </select>
          <select aria-label="Picture size" value={size} onChange={(e) => setSize(Number(e.target.value))}>
            {SIZES.map(([label], i) => (
              <option key={label} value={i}>
                {label}
              </option>
            ))}
          </select>
          <select aria-label="Frames a second" value={rate} onChange={(e) => setRate(Number(e.target.value))}>
            {[0, 25, 30, 50, 60].map((r) => (
              <option key={r} value={r}>
                {r === 0 ? 'Any rate' : `${r} fr/s`}
              </option>
            ))}
          </select>
          <Button look="straw" onClick={choose}>
            {verb}
          </Button>
        </>
      )}
    </div>
  );
}

/** What to add to the show. */
export function AddSource({ open, onClose }: { open: boolean; onClose: () => void }) {
  const host = useShowClient();
  const send = useSend();
  const addFiles = useAddFiles();
  const picker = useRef<HTMLInputElement>(null);
  const [colour, setColour] = useState('#16405a');
  const [withSound, setWithSound] = useState(true);
  const add = (name: string, settings: SourceSettings) => {
    if (send('source.add', { name, settings })) onClose();
  };
  const addScreen = () => {
    const outcome = host.dispatch({ type: 'source.add', args: { name: 'Screen', settings: { kind: 'screen', withSound } } });
    if (!outcome.ok) return;
    onClose();
    // Within the same press, so that the browser lets it ask.
    host.pressSource(String(outcome.result.id));
  };
  return (
    <Dialog open={open} onClose={onClose} title="Add a source" wide>
      <Section icon={<Camera size={18} />} title="Camera or capture device">
        <CameraForm onChoose={add} verb="Add camera" />
      </Section>
      <Section icon={<FileVideo size={18} />} title="Files">
        <p className="text-xs text-muted">
          Video: MP4, WebM, MOV. Sound: MP3, WAV, M4A, OGG. Stills: PNG, JPEG, WebP, SVG. They are copied into this browser.
        </p>
        <input
          ref={picker}
          type="file"
          multiple
          className="hidden"
          aria-label="Files to add"
          accept="video/mp4,video/webm,video/quicktime,.mov,audio/wav,audio/mpeg,audio/mp4,audio/ogg,audio/webm,image/png,image/jpeg,image/webp,image/svg+xml"
          onChange={(e) => {
            const files = [...(e.target.files ?? [])];
            onClose();
            void addFiles(files);
          }}
        />
        <Button className="mt-1" onClick={() => picker.current?.click()}>
          Choose files…
        </Button>
      </Section>
      <Section icon={<MonitorUp size={18} />} title="Screen or window">
        <div className="mt-1 flex items-center gap-3">
          <Button onClick={addScreen}>Choose a screen…</Button>
          <label className="flex items-center gap-1.5">
            <input type="checkbox" checked={withSound} onChange={(e) => setWithSound(e.target.checked)} /> with its sound
          </label>
        </div>
      </Section>
      <Section icon={<RadioTower size={18} />} title="Encoder">
        <p className="text-xs text-muted">
          An encoder, camera app or other machine that speaks WHIP sends it, by an address and a key of its own.
        </p>
        <Button className="mt-1" onClick={() => add('Encoder', { kind: 'encoder' })}>
          Add encoder
        </Button>
      </Section>
      <Section icon={<TestTube2 size={18} />} title="Test pictures">
        <div className="mt-1 flex gap-2">
          <Button onClick={() => add('Bars and tone', { kind: 'test', pattern: 'bars' })}>Bars and tone</Button>
          <Button onClick={() => add('Flash and beep', { kind: 'test', pattern: 'sync' })}>Flash and beep</Button>
        </div>
      </Section>
      <Section icon={<Palette size={18} />} title="Colour">
        <div className="mt-1 flex items-center gap-2">
          <input type="color" aria-label="Colour" className="h-8 w-12 p-0.5!" value={colour} onChange={(e) => setColour(e.target.value)} />
          <Button onClick={() => add(`Colour ${colour}`, { kind: 'colour', colour })}>Add colour</Button>
        </div>
      </Section>
      <Section icon={<Video size={18} />} title="Simulated cameras">
        <div className="mt-1 flex flex-wrap gap-2">
          {SIMULATED_CAMERAS.map((camera) => (
            <Button key={camera} onClick={() => add(CAMERA_NAMES[camera], { kind: 'simulated', camera })}>
              {CAMERA_NAMES[camera]}
            </Button>
          ))}
        </div>
      </Section>
    </Dialog>
  );
}

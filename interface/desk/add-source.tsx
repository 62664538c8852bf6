/** Adding sources: cameras, screens, files, test pictures, colours, simulated cameras. */
import { Camera, FileVideo, MonitorUp, Palette, RadioTower, TestTube2, Video } from 'lucide-react';
import { type ReactNode, useRef, useState } from 'react';
import { CAMERA_NAMES, SIMULATED_CAMERAS, type SourceSettings } from '#core/show/source';
import { useShowClient, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { Dialog } from '../parts/dialog';
import { CameraForm } from './camera-form';
import { useAddFiles } from './use-add-files';

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

/** One layout: its name, number, background, frame and presets. */
import { Frame } from 'lucide-react';
import { useState } from 'react';
import { type Layout } from '#core/layout/document';
import { useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { FileButton } from '../parts/file-button';
import { NumberField } from '../parts/number-field';
import { USUAL_BLEED, useFrameArt } from './frame-art';
import { ContentSelect, PictureSelect } from '../parts/picture-select';

/** Name, number, background and frame artwork of a layout; storing its state. */
export function LayoutPanel({ layout }: { layout: Layout }) {
  const send = useSend();
  const art = useFrameArt(layout.id);
  const [bleed, setBleed] = useState(USUAL_BLEED);
  const [preset, setPreset] = useState('');
  const { stills, presets, graphics } = useShow(({ desk: { show } }) => ({
    stills: show.sources,
    presets: show.presets,
    graphics: show.graphics.list,
  }));
  const edit = (change: Partial<Layout>) => send('layout.edit', { layout: layout.id, ...change });
  const own = presets.filter((p) => p.layoutId === layout.id);
  return (
    <div className="flex flex-col gap-2 p-2">
      <input
        key={layout.id + layout.name}
        aria-label="Name of the layout"
        className="font-semibold"
        defaultValue={layout.name}
        maxLength={80}
        onBlur={(e) => e.target.value.trim() && e.target.value !== layout.name && edit({ name: e.target.value.trim() })}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      />
      <NumberField
        className="w-28"
        showLabel
        label="Number, 0 for none"
        min={0}
        max={99}
        value={layout.number ?? 0}
        onCommit={(v) => edit({ number: v === 0 ? null : v })}
      />
      <span className="text-xs text-muted">Behind the boxes</span>
      <ContentSelect
        label="Behind the boxes"
        none="black"
        layoutId={layout.id}
        content={layout.background}
        onChange={(background) => edit({ background })}
      />
      <span className="text-xs text-muted">Frame artwork over the boxes</span>
      <PictureSelect
        label="Frame artwork"
        kinds={['source', 'graphic']}
        keep={(item) => stills.some((x) => x.id === item.id && x.settings.kind === 'still') || graphics.some((g) => g.id === item.id)}
        value={layout.frameId}
        onChange={(frameId) => edit({ frameId })}
      />
      <div className="flex flex-wrap items-end gap-2">
        <NumberField className="w-20" showLabel label="Bleed, pixels" min={0} max={200} value={bleed} onCommit={setBleed} />
        <Button
          unusable={stills.some((x) => x.id === layout.frameId) ? null : 'Choose a still as artwork first, or take a file.'}
          onClick={() => layout.frameId && void art.fromSource(layout.frameId, bleed)}
        >
          <Frame size={15} /> Find windows
        </Button>
        <FileButton
          label="File with frame artwork"
          accept="image/png,image/webp,image/svg+xml"
          onFile={(file) => void art.fromFile(file, bleed)}
        >
          From a file…
        </FileButton>
      </div>
      <p className="text-xs text-muted">
        Or drop artwork on the picture: its transparent openings are found, and a box is laid under each.
      </p>
      <div className="flex flex-col gap-1.5 border-t border-line pt-2">
        <h3 className="text-xs font-semibold text-muted">Presets: this state, stored</h3>
        {own.map((p) => (
          <div key={p.id} className="flex items-center gap-1">
            <Button className="min-w-0 flex-1 justify-start!" title="Into Next" onClick={() => send('preset.recall', { preset: p.id })}>
              <span className="truncate">{p.name}</span>
            </Button>
            <Button
              title="Back into this layout; seen at once if it is on air"
              onClick={() => send('preset.recall', { preset: p.id, to: 'layout' })}
            >
              Into layout
            </Button>
            <Button look="quiet" aria-label={`Remove the preset ${p.name}`} onClick={() => send('layout.remove', { layout: p.id })}>
              ×
            </Button>
          </div>
        ))}
        <form
          className="flex gap-1"
          onSubmit={(e) => {
            e.preventDefault();
            if (send('preset.store', { layout: layout.id, name: preset.trim() || `${layout.name} ${own.length + 1}` })) setPreset('');
          }}
        >
          <input
            aria-label="Name of the preset"
            placeholder="Name"
            className="min-w-0 flex-1"
            maxLength={80}
            value={preset}
            onChange={(e) => setPreset(e.target.value)}
          />
          <Button type="submit">Store</Button>
        </form>
      </div>
    </div>
  );
}

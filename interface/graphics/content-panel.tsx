/** What an element is: its words and type, sides, image, clock or live picture. */
import { useEffect, useState } from 'react';
import { glyphsMissing } from '#engine/graphics/pictures';
import { type Element, ACROSS, CAPITALS, CLOCK_FORMATS, DOWN, OVERFLOWS, type TextStyle } from '#core/graphics/element';
import { type Graphic } from '#core/graphics/document';
import { FAMILIES } from '#core/graphics/families';
import { IMAGE_FITS } from '#core/graphics/fill';
import { useSend, useShow } from '../client/show-client';
import { FileButton } from '../parts/file-button';
import { PictureSelect } from '../parts/picture-select';
import { useDraft } from '../parts/use-draft';
import { Check, Choice, ColourField, Num, Numbers, Part } from './fields';
import { addFont, addImage } from './images';

const WEIGHTS = [
  ['400', 'regular'],
  ['600', 'semibold'],
  ['700', 'bold'],
] as const;
const OVERFLOW_WORDS: Record<TextStyle['overflow'], string> = {
  shrink: 'gets smaller',
  squeeze: 'gets narrower',
  ellipsis: 'ends with …',
  spill: 'reaches out of its box',
};

function TypeFields({ style, set }: { style: TextStyle; set: (change: Partial<TextStyle>) => void }) {
  const send = useSend();
  const fonts = useShow(({ desk }) => desk.show.graphics.fonts);
  return (
    <Part title="Type">
      <Choice
        label="Family"
        value={style.family}
        all={[
          ...FAMILIES.map((f) => [f.family, `${f.family}: ${f.about}`] as const),
          ...fonts.map((f) => [f.family, `${f.family}: of your own`] as const),
          ...([...FAMILIES, ...fonts].some((f) => f.family === style.family)
            ? []
            : [[style.family, `${style.family}: missing here`] as const]),
        ]}
        onChange={(family) => set({ family })}
      />
      <FileButton
        label="Font file"
        accept=".ttf,.otf,.woff2,font/*"
        onFile={(file) =>
          void addFont(file).then(
            (font) => font && send('font.add', { ...font, fileName: file.name.slice(0, 256) }) && set({ family: font.family }),
          )
        }
      >
        A font of your own…
      </FileButton>
      <Numbers>
        <Num label="Size" min={1} max={2000} value={style.size} onCommit={(size) => set({ size })} />
        <Choice label="Weight" value={String(style.weight)} all={WEIGHTS} onChange={(weight) => set({ weight: Number(weight) })} />
        <Num label="Line spacing" min={0.5} max={4} digits={2} value={style.lineHeight} onCommit={(lineHeight) => set({ lineHeight })} />
        <Num label="Letter spacing" min={-200} max={400} value={style.letterSpacing} onCommit={(letterSpacing) => set({ letterSpacing })} />
        <Choice label="Across" value={style.across} all={ACROSS.map((a) => [a, a] as const)} onChange={(across) => set({ across })} />
        <Choice label="Down" value={style.down} all={DOWN.map((d) => [d, d] as const)} onChange={(down) => set({ down })} />
        <Choice
          label="Capitals"
          value={style.capitals}
          all={CAPITALS.map((c) => [c, c] as const)}
          onChange={(capitals) => set({ capitals })}
        />
        <Choice
          label="When it does not fit"
          value={style.overflow}
          all={OVERFLOWS.map((o) => [o, OVERFLOW_WORDS[o]] as const)}
          onChange={(overflow) => set({ overflow })}
        />
        <Num label="Depth" min={0} max={200} value={style.depth} onCommit={(depth) => set({ depth })} />
        <Num label="Light from" unit="°" min={-360} max={360} value={style.light} onCommit={(light) => set({ light })} />
      </Numbers>
      <div className="flex gap-3">
        <Check label="italic" on={style.italic} onChange={(italic) => set({ italic })} />
        <Check label="several lines" on={style.wrap} onChange={(wrap) => set({ wrap })} />
      </div>
    </Part>
  );
}

/** Letters that no family has, by name: the audience would see a box, or another font. */
function Missing({ text, style }: { text: string; style: TextStyle }) {
  const [missing, setMissing] = useState<string[]>([]);
  useEffect(() => {
    let gone = false;
    const timer = setTimeout(() => void glyphsMissing(text, style).then((found) => gone || setMissing(found)), 300);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [text, style]);
  if (missing.length === 0) return null;
  return (
    <p role="status" className="text-xs text-caution">
      {style.family} has no {missing.slice(0, 12).join(' ')} (
      {missing
        .slice(0, 12)
        .map((l) => `U+${(l.codePointAt(0) ?? 0).toString(16).toUpperCase().padStart(4, '0')}`)
        .join(', ')}
      ). Choose a family that has, or bring one in.
    </p>
  );
}

function Words({ graphic, element }: { graphic: Graphic; element: Element }) {
  const send = useSend();
  const { content } = element;
  const kept = content.kind === 'text' ? content.text : '';
  const [text, setText] = useDraft(kept);
  const field = graphic.fields.find((f) => f.targets.some((t) => t.elementId === element.id && t.property === 'content'));
  return (
    <Part title="Words">
      <textarea
        aria-label="Words"
        rows={3}
        className="w-full resize-y"
        maxLength={10_000}
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          send('element.setText', { graphic: graphic.id, element: element.id, text: e.target.value });
        }}
      />
      {content.kind === 'text' && <Missing text={text} style={content.style} />}
      {field && <p className="text-xs text-muted">The field {field.name} stands in front of these words.</p>}
    </Part>
  );
}

export function ContentPanel({ graphic, elements }: { graphic: Graphic; elements: readonly Element[] }) {
  const send = useSend();
  const clocks = useShow(({ desk }) => desk.show.graphics.clocks);
  const element = elements[0] as Element;
  const { content } = element;
  const of = { graphic: graphic.id, element: element.id };
  const change = (part: object) => send('element.setContent', { ...of, content: { ...content, ...part } });
  const type = (part: Partial<TextStyle>) => send('element.setType', { graphic: graphic.id, elements: elements.map((e) => e.id), ...part });
  switch (content.kind) {
    case 'text':
      return (
        <>
          <Words graphic={graphic} element={element} />
          <TypeFields style={content.style} set={type} />
        </>
      );
    case 'clock':
      return (
        <>
          <Part title="Clock">
            <Choice
              label="Clock"
              value={content.clockId ?? ''}
              all={[['', 'none'], ...clocks.map((c) => [c.id, c.name] as const)]}
              onChange={(id) => change({ clockId: id === '' ? null : id })}
            />
            <Numbers>
              <Choice
                label="Format"
                value={content.format}
                all={CLOCK_FORMATS.map((f) => [f, f] as const)}
                onChange={(format) => change({ format })}
              />
              <Num
                label="Last seconds"
                unit="s"
                min={0}
                max={3600}
                value={content.lastSeconds}
                onCommit={(lastSeconds) => change({ lastSeconds })}
              />
            </Numbers>
            <ColourField
              label="Colour of the last seconds"
              colour={content.lastColour}
              onChange={({ colour }) => colour && change({ lastColour: colour })}
            />
          </Part>
          <TypeFields style={content.style} set={type} />
        </>
      );
    case 'polygon':
      return (
        <Part title="Polygon">
          <Num label="Sides" min={3} max={12} digits={0} value={content.sides} onCommit={(sides) => change({ sides: Math.round(sides) })} />
        </Part>
      );
    case 'image':
      return (
        <Part title="Image">
          <p className="truncate text-xs text-muted">{content.fileName || 'No image is chosen.'}</p>
          <FileButton
            label="Image file"
            accept="image/*"
            onFile={(file) => void addImage(file).then((assetId) => assetId && change({ assetId, fileName: file.name.slice(0, 256) }))}
          >
            {content.assetId === null ? 'Choose an image…' : 'Another image…'}
          </FileButton>
          <Choice label="Fit" value={content.fit} all={IMAGE_FITS.map((f) => [f, f] as const)} onChange={(fit) => change({ fit })} />
        </Part>
      );
    case 'window':
      return (
        <Part title="Live picture">
          <PictureSelect
            label="Picture in the window"
            kinds={['source', 'framing', 'seat', 'layout']}
            none="no picture"
            value={content.pictureId}
            onChange={(pictureId) => change({ pictureId })}
          />
          <Choice
            label="Fit"
            value={content.fit}
            all={[
              ['cover', 'fills the window'],
              ['contain', 'whole'],
            ]}
            onChange={(fit) => change({ fit })}
          />
          <p className="text-xs text-muted">Here it is a pane in its place; over air and Next it shows the picture itself.</p>
        </Part>
      );
    case 'group':
      return (
        <Part title="Group">
          <Choice
            label="When something in it hides"
            value={content.flow}
            all={[
              ['none', 'the gap stays'],
              ['row', 'the gap closes, sideways'],
              ['column', 'the gap closes, downwards'],
            ]}
            onChange={(flow) => change({ flow })}
          />
          <Choice
            label="What is left stands"
            value={content.align}
            all={[
              ['start', 'at the start'],
              ['middle', 'in the middle'],
              ['end', 'at the end'],
            ]}
            onChange={(align) => change({ align })}
          />
        </Part>
      );
    default:
      return <p className="p-2 text-muted">Fill and stroke of this shape stand under Look.</p>;
  }
}

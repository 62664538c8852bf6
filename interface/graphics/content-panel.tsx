/** What an element is: its words and type, sides, image, clock or live picture. */
import { useEffect, useRef, useState } from 'react';
import { withoutSigns } from '#core/graphics/accents';
import { glyphsMissing } from '#engine/graphics/pictures';
import { CLOCK_FORMATS, type Element, type TextStyle } from '#core/graphics/element';
import { type Graphic } from '#core/graphics/document';
import { IMAGE_FITS } from '#core/graphics/fill';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { FileButton } from '../parts/file-button';
import { PictureSelect } from '../parts/picture-select';
import { useDraft } from '../parts/use-draft';
import { AccentFields } from './accent-fields';
import { AnimationFields } from './animation-fields';
import { Choice, ColourField, Num, Numbers, Part } from '../parts/fields';
import { useAddImage } from './images';
import { TableFields, TickerFields } from './row-fields';
import { TypeFields } from './type-fields';

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
  const area = useRef<HTMLTextAreaElement>(null);
  const accents = content.kind === 'text' ? content.accents : [];
  const write = (words: string) => {
    setText(words);
    send('element.setText', { graphic: graphic.id, element: element.id, text: words });
  };
  /** Puts signs around the words that are chosen in the area. */
  const surround = (sign: string) => {
    const { selectionStart = 0, selectionEnd = 0 } = area.current ?? {};
    if (selectionStart === selectionEnd) return;
    write(`${text.slice(0, selectionStart)}${sign}${text.slice(selectionStart, selectionEnd)}${sign}${text.slice(selectionEnd)}`);
    area.current?.focus();
  };
  return (
    <Part
      title="Words"
      action={accents.map(({ sign }) => (
        <Button
          key={sign}
          className="figures px-2!"
          aria-label={`Set the chosen words in the style ${sign}`}
          title={`Puts ${sign} around the words that are chosen below`}
          onMouseDown={(e) => e.preventDefault()}
          onClick={() => surround(sign)}
        >
          {sign}
        </Button>
      ))}
    >
      <textarea
        ref={area}
        aria-label="Words"
        rows={3}
        className="w-full resize-y"
        maxLength={10_000}
        value={text}
        onChange={(e) => write(e.target.value)}
      />
      {content.kind === 'text' && <Missing text={withoutSigns(text, accents)} style={content.style} />}
      {field && <p className="text-xs text-muted">The field {field.name} stands in front of these words.</p>}
    </Part>
  );
}

export function ContentPanel({ graphic, elements }: { graphic: Graphic; elements: readonly Element[] }) {
  const addImage = useAddImage();
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
          <TypeFields grows style={content.style} set={type} />
          <AccentFields accents={content.accents} onChange={(accents) => change({ accents })} />
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
          <TypeFields grows={false} style={content.style} set={type} />
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
        </Part>
      );
    case 'ticker':
      return <TickerFields content={content} change={change} setType={type} />;
    case 'table':
      return <TableFields content={content} change={change} setType={type} />;
    case 'animation':
      return <AnimationFields graphic={graphic} element={element} content={content} onChange={change} />;
    case 'group':
      return (
        <Part title="Group">
          <Choice
            label="Gaps close, growing words push"
            value={content.flow}
            all={[
              ['none', 'all stays in its place'],
              ['row', 'sideways'],
              ['column', 'downwards'],
            ]}
            onChange={(flow) => change({ flow })}
          />
          <Choice
            label="All of it stands"
            value={content.align}
            all={[
              ['start', 'at the start'],
              ['middle', 'in the middle'],
              ['end', 'at the end'],
            ]}
            onChange={(align) => change({ align })}
          />
          <p className="text-xs text-muted">With a fill or stroke under Look it is a plate behind what is in it, and grows with that.</p>
        </Part>
      );
    default:
      return <p className="p-2 text-muted">Fill and stroke of this shape stand under Look.</p>;
  }
}

/** Where an animation waits: chosen on a strip of small pictures, or by its frame. */
import { useMemo } from 'react';
import { type AnimationContent } from '#core/graphics/animation/document';
import { settledFrame } from '#core/graphics/animation/stills';
import { type Graphic } from '#core/graphics/document';
import { type Element } from '#core/graphics/element';
import { NO_VALUES } from '#core/graphics/find';
import { Button } from '../parts/button';
import { Num, Numbers, Part } from '../parts/fields';
import { GraphicPicture } from './graphic-picture';

/** Pictures in the strip. */
const PICTURES = 8;

export function AnimationFields({
  graphic,
  element,
  content,
  onChange,
}: {
  graphic: Graphic;
  element: Element;
  content: AnimationContent;
  onChange: (change: Partial<AnimationContent>) => void;
}) {
  const { first, last, holds, stills } = content;
  const hold = holds[0]?.frame ?? first;
  const setHold = (index: number, frame: number) =>
    onChange({ holds: holds.map((h, i) => (i === index ? { ...h, frame } : h)).sort((a, b) => a.frame - b.frame) });
  const setSeconds = (index: number, seconds: number) =>
    onChange({ holds: holds.map((h, i) => (i === index ? { ...h, seconds: seconds === 0 ? null : seconds } : h)) });
  const strip = useMemo(() => {
    const seen = new Set<number>();
    const spread = Array.from({ length: PICTURES }, (_, i) => Math.round(first + ((i + 0.5) / PICTURES) * (last - first)));
    return [...spread.map((frame) => settledFrame(stills, frame)), hold]
      .sort((a, b) => a - b)
      .filter((frame) => !seen.has(frame) && seen.add(frame))
      .map((frame) => {
        const shown: Element = { ...element, content: { ...content, holds: [{ frame, seconds: null }] } };
        return { frame, filled: { graphic: { ...graphic, elements: [shown] }, values: NO_VALUES } };
      });
  }, [graphic, element, content, first, last, stills, hold]);
  return (
    <Part
      title="Animation"
      action={
        <Button
          aria-label="Add a hold point"
          unusable={holds.length >= 20 ? 'An animation waits at 20 places at most.' : null}
          onClick={() => onChange({ holds: [...holds, { frame: Math.min(last - 1, (holds.at(-1)?.frame ?? first) + 1), seconds: null }] })}
        >
          Hold point
        </Button>
      }
    >
      <p className="truncate text-xs text-muted">
        {content.fileName}: frames {first} to {last}
        {content.problems > 0 ? `; ${content.problems} things of it are not drawn` : ''}
      </p>
      <div className="grid grid-cols-3 gap-1" role="group" aria-label="Where it waits">
        {strip.map(({ frame, filled }) => (
          <button
            key={frame}
            type="button"
            aria-pressed={frame === hold}
            aria-label={`Wait at frame ${frame}`}
            className={`border ${frame === hold ? 'border-straw' : 'border-line'}`}
            onClick={() => setHold(0, frame)}
          >
            <GraphicPicture filled={filled} label={`Frame ${frame}`} className="w-full" />
            <span className="figures block text-center text-[13px]">{frame}</span>
          </button>
        ))}
      </div>
      <Numbers>
        {holds.flatMap((h, i) => [
          <Num
            key={i}
            label={holds.length > 1 ? `Waits at (${i + 1})` : 'Waits at'}
            unit="fr"
            digits={1}
            min={first}
            max={last}
            value={h.frame}
            onCommit={(frame) => setHold(i, frame)}
          />,
          <Num
            key={`${i} s`}
            label={i < holds.length - 1 ? 'Goes on after (0: when sent)' : 'Goes after (0: when sent)'}
            unit="s"
            digits={1}
            min={0}
            max={86_400}
            value={h.seconds ?? 0}
            onCommit={(seconds) => setSeconds(i, seconds)}
          />,
        ])}
      </Numbers>
      {holds.length > 1 && <Button onClick={() => onChange({ holds: holds.slice(0, -1) })}>Remove the last hold point</Button>}
    </Part>
  );
}

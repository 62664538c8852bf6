/** Where an element stands and how it is turned; alignment of several. */
import {
  AlignCenterHorizontal,
  AlignCenterVertical,
  AlignEndHorizontal,
  AlignEndVertical,
  AlignStartHorizontal,
  AlignStartVertical,
  FlipHorizontal2,
  FlipVertical2,
} from 'lucide-react';
import { type ElementMask, type Element } from '#core/graphics/element';
import { NO_CROP } from '#core/graphics/create';
import { type Graphic } from '#core/graphics/document';
import { useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { Check, Choice, Num, Numbers, Part } from '../parts/fields';

const ALIGN = [
  ['left', 'To the left', AlignStartVertical],
  ['centre', 'To the middle, across', AlignCenterVertical],
  ['right', 'To the right', AlignEndVertical],
  ['top', 'To the top', AlignStartHorizontal],
  ['middle', 'To the middle, down', AlignCenterHorizontal],
  ['bottom', 'To the bottom', AlignEndHorizontal],
] as const;

export function PlacePanel({ graphic, elements, set }: { graphic: Graphic; elements: readonly Element[]; set: (change: object) => void }) {
  const send = useSend();
  const first = elements[0] as Element;
  const of = { graphic: graphic.id, elements: elements.map((e) => e.id) };
  const { width, height } = graphic.raster;
  const { corners, crop } = first;
  // A group has no depth and no box of its own to lean; a live picture cannot be seen in perspective.
  const turns = elements.every(({ content }) => content.kind !== 'group' && content.kind !== 'window');
  const even = new Set(Object.values(corners)).size === 1;
  return (
    <>
      <Part title="Place">
        <Numbers>
          <Num label="x" min={-20000} max={20000} whole={width} value={first.x} onCommit={(x) => set({ x })} />
          <Num label="y" min={-20000} max={20000} whole={height} value={first.y} onCommit={(y) => set({ y })} />
          <Num label="Width" min={0} max={20000} whole={width} value={first.width} onCommit={(w) => set({ width: w })} />
          <Num label="Height" min={0} max={20000} whole={height} value={first.height} onCommit={(h) => set({ height: h })} />
        </Numbers>
        <div className="flex flex-wrap gap-1" role="group" aria-label="Align">
          {ALIGN.map(([how, words, Icon]) => (
            <Button
              key={how}
              className="px-1.5!"
              aria-label={words}
              title={`${words}${elements.length > 1 ? ', to each other' : ' of the picture'}`}
              onClick={() => send('element.align', { ...of, how })}
            >
              <Icon size={15} />
            </Button>
          ))}
        </div>
        <div className="flex flex-wrap gap-1">
          {elements.length > 1 && (
            <Button title="Of the picture" onClick={() => send('element.align', { ...of, how: 'centre', toPicture: true })}>
              Middle of the picture
            </Button>
          )}
          {elements.length > 2 && (
            <>
              <Button onClick={() => send('element.distribute', { ...of, axis: 'across' })}>Equal gaps across</Button>
              <Button onClick={() => send('element.distribute', { ...of, axis: 'down' })}>Equal gaps down</Button>
            </>
          )}
          <Button onClick={() => send('element.fillPicture', of)}>Fill the picture</Button>
        </div>
      </Part>
      <Part title="Turn">
        <Numbers>
          <Num label="Rotation" unit="°" min={-3600} max={3600} value={first.rotation} onCommit={(rotation) => set({ rotation })} />
          <Num label="Opacity" unit="%" min={0} max={100} value={first.opacity * 100} onCommit={(p) => set({ opacity: p / 100 })} />
          {turns && (
            <>
              <Num label="About the upright axis" unit="°" min={-360} max={360} value={first.turnY} onCommit={(turnY) => set({ turnY })} />
              <Num label="About the level axis" unit="°" min={-360} max={360} value={first.turnX} onCommit={(turnX) => set({ turnX })} />
              <Num label="Skew sideways" unit="°" min={-80} max={80} value={first.skewX} onCommit={(skewX) => set({ skewX })} />
              <Num label="Skew down" unit="°" min={-80} max={80} value={first.skewY} onCommit={(skewY) => set({ skewY })} />
            </>
          )}
        </Numbers>
        <div className="flex gap-1">
          <Button pressed={first.flipX} aria-label="Flip left to right" onClick={() => set({ flipX: !first.flipX })}>
            <FlipHorizontal2 size={15} /> Flip
          </Button>
          <Button pressed={first.flipY} aria-label="Flip top to bottom" onClick={() => set({ flipY: !first.flipY })}>
            <FlipVertical2 size={15} /> Flip
          </Button>
        </div>
      </Part>
      <Part title={even ? 'Corners' : 'Corners, each its own'}>
        <Numbers>
          <Num
            label="All corners"
            min={0}
            max={4000}
            value={corners.topLeft}
            onCommit={(r) => set({ corners: { topLeft: r, topRight: r, bottomRight: r, bottomLeft: r } })}
          />
          <span />
          {(
            [
              ['topLeft', 'Top left'],
              ['topRight', 'Top right'],
              ['bottomLeft', 'Bottom left'],
              ['bottomRight', 'Bottom right'],
            ] as const
          ).map(([corner, words]) => (
            <Num
              key={corner}
              label={words}
              min={0}
              max={4000}
              value={corners[corner]}
              onCommit={(r) => set({ corners: { ...corners, [corner]: r } })}
            />
          ))}
        </Numbers>
      </Part>
      <Part title="Crop" action={<Check label="cropped" on={crop !== null} onChange={(on) => set({ crop: on ? NO_CROP : null })} />}>
        {crop && (
          <>
            <Numbers>
              {(
                [
                  ['left', 'Left', 'featherLeft'],
                  ['right', 'Right', 'featherRight'],
                  ['top', 'Top', 'featherTop'],
                  ['bottom', 'Bottom', 'featherBottom'],
                ] as const
              ).flatMap(([side, words, feather]) => [
                <Num
                  key={side}
                  label={words}
                  unit="%"
                  min={0}
                  max={100}
                  value={crop[side] * 100}
                  onCommit={(p) => set({ crop: { ...crop, [side]: p / 100 } })}
                />,
                <Num
                  key={feather}
                  label={`${words}: soft`}
                  min={0}
                  max={400}
                  value={crop[feather]}
                  onCommit={(p) => set({ crop: { ...crop, [feather]: p } })}
                />,
              ])}
            </Numbers>
            <Check
              label="stroke, corners and shadow follow the crop"
              on={crop.follows}
              onChange={(follows) => set({ crop: { ...crop, follows } })}
            />
          </>
        )}
      </Part>
      <Part title="Mask">
        <Choice
          label="Masked by"
          value={first.mask?.elementId ?? ''}
          all={[
            ['', 'nothing'],
            ...graphic.elements.filter((e) => !elements.includes(e) && e.content.kind !== 'group').map((e) => [e.id, e.name] as const),
          ]}
          onChange={(elementId) =>
            set({ mask: elementId === '' ? null : ({ elementId, inside: first.mask?.inside ?? true } satisfies ElementMask) })
          }
        />
        {first.mask && (
          <Check label="shown inside of it" on={first.mask.inside} onChange={(inside) => set({ mask: { ...first.mask, inside } })} />
        )}
      </Part>
    </>
  );
}

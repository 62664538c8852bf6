/** The settings of one transition. */
import { transitionTrouble } from '#core/picture/change';
import { EASINGS } from '#core/show/moves';
import { DIRECTIONS, type Transition, TRANSITION_KINDS, type TransitionKind, WIPE_SHAPES } from '#core/picture/document';
import { useShow } from '../client/show-client';
import { PictureSelect } from '../parts/picture-select';
import { NumberField } from '../parts/number-field';

export const KIND_NAMES: Record<TransitionKind, string> = {
  cut: 'Cut',
  dissolve: 'Dissolve',
  dip: 'Dip to colour',
  wipe: 'Wipe',
  push: 'Push',
  slide: 'Slide',
  zoom: 'Zoom blur',
  luma: 'Picture wipe',
  stinger: 'Stinger',
  glide: 'Glide',
};

/** How a movement gathers and loses pace, in words. */
export const EASING_NAMES = { linear: 'even', in: 'gathers pace', out: 'comes to rest', 'in-out': 'both' } as const;
const DIRECTION_NAMES = { right: 'to the right', left: 'to the left', down: 'downwards', up: 'upwards' } as const;
const ABOUT: Partial<Record<TransitionKind, string>> = {
  glide: 'Boxes move to their places in the next layout: partners by seat, then by source. The rest fade.',
  stinger: 'A clip or still with transparent parts plays over the change. By hand with the bar, and when it is missing, it dissolves.',
  luma: 'The dark places of a grey picture change first.',
};

/** All settings of a transition of its kind. */
export function TransitionFields({ value, onChange }: { value: Transition; onChange: (change: Partial<Transition>) => void }) {
  const trouble = useShow(({ desk: { show, air } }) => transitionTrouble(show, air, value));
  const soft = value.kind === 'wipe' || value.kind === 'luma';
  return (
    <div className="flex flex-col gap-2">
      <div className="flex items-end gap-2">
        <label className="flex flex-1 flex-col gap-0.5">
          <span className="text-xs text-muted">Kind</span>
          <select aria-label="Kind of transition" value={value.kind} onChange={(e) => onChange({ kind: e.target.value as TransitionKind })}>
            {TRANSITION_KINDS.map((kind) => (
              <option key={kind} value={kind}>
                {KIND_NAMES[kind]}
              </option>
            ))}
          </select>
        </label>
        <NumberField
          className="w-20"
          showLabel
          label="Frames"
          min={1}
          max={1500}
          value={value.frames}
          onCommit={(frames) => onChange({ frames })}
        />
      </div>
      {ABOUT[value.kind] && <p className="text-xs text-muted">{ABOUT[value.kind]}</p>}
      {trouble !== null && (
        <p role="alert" className="text-xs text-caution">
          Will dissolve: {trouble}.
        </p>
      )}
      <div className="flex flex-wrap items-end gap-2">
        {value.kind === 'dissolve' && (
          <label className="flex flex-col gap-0.5">
            <span className="text-xs text-muted">Mixed in</span>
            <select aria-label="Mixed in" value={value.light} onChange={(e) => onChange({ light: e.target.value as Transition['light'] })}>
              <option value="gamma">signal values</option>
              <option value="linear">linear light</option>
            </select>
          </label>
        )}
        {value.kind === 'dip' && (
          <label className="flex flex-col gap-0.5">
            <span className="text-xs text-muted">Colour</span>
            <input
              type="color"
              aria-label="Colour of the dip"
              className="h-8 w-12 p-0.5!"
              value={value.dipColour}
              onChange={(e) => onChange({ dipColour: e.target.value })}
            />
          </label>
        )}
        {value.kind === 'wipe' && (
          <>
            <label className="flex flex-col gap-0.5">
              <span className="text-xs text-muted">Shape</span>
              <select
                aria-label="Shape of the wipe"
                value={value.shape}
                onChange={(e) => onChange({ shape: e.target.value as Transition['shape'] })}
              >
                {WIPE_SHAPES.map((shape) => (
                  <option key={shape}>{shape}</option>
                ))}
              </select>
            </label>
            {value.shape !== 'iris' && (
              <NumberField
                className="w-20"
                showLabel
                label="Angle"
                unit="°"
                min={-360}
                max={360}
                value={value.angle}
                onCommit={(angle) => onChange({ angle })}
              />
            )}
          </>
        )}
        {soft && (
          <NumberField
            className="w-20"
            showLabel
            label="Soft edge"
            unit="%"
            min={0}
            max={100}
            value={Math.round(value.softness * 100)}
            onCommit={(v) => onChange({ softness: v / 100 })}
          />
        )}
        {(value.kind === 'push' || value.kind === 'slide') && (
          <label className="flex flex-col gap-0.5">
            <span className="text-xs text-muted">Travels</span>
            <select
              aria-label="Direction of travel"
              value={value.direction}
              onChange={(e) => onChange({ direction: e.target.value as Transition['direction'] })}
            >
              {DIRECTIONS.map((d) => (
                <option key={d} value={d}>
                  {DIRECTION_NAMES[d]}
                </option>
              ))}
            </select>
          </label>
        )}
        {value.kind === 'luma' && (
          <label className="flex flex-col gap-0.5">
            <span className="text-xs text-muted">Grey picture</span>
            <PictureSelect
              className="w-40"
              label="Grey picture"
              kinds={['source']}
              none="choose…"
              value={value.imageId}
              onChange={(imageId) => onChange({ imageId })}
            />
          </label>
        )}
        {value.kind === 'stinger' && (
          <>
            <label className="flex flex-col gap-0.5">
              <span className="text-xs text-muted">Clip, still or graphic</span>
              <PictureSelect
                className="w-40"
                label="Clip or still of the stinger"
                kinds={['source', 'graphic']}
                none="choose…"
                value={value.stingerId}
                onChange={(stingerId) => onChange({ stingerId })}
              />
            </label>
            <NumberField
              className="w-24"
              showLabel
              label="Cut at frame"
              min={0}
              max={1500}
              value={value.cutFrame}
              onCommit={(cutFrame) => onChange({ cutFrame })}
            />
          </>
        )}
        {value.kind !== 'cut' && (
          <label className="flex flex-col gap-0.5">
            <span className="text-xs text-muted">Pace</span>
            <select aria-label="Pace" value={value.easing} onChange={(e) => onChange({ easing: e.target.value as Transition['easing'] })}>
              {EASINGS.map((easing) => (
                <option key={easing} value={easing}>
                  {EASING_NAMES[easing]}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
    </div>
  );
}

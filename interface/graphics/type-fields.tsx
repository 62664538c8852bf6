/** The type of texts and clocks: family, size, spacing, alignment, and what happens when words do not fit. */
import { ACROSS, CAPITALS, DOWN, OVERFLOWS, type TextStyle } from '#core/graphics/element';
import { FAMILIES } from '#core/graphics/families';
import { useSend, useShow } from '../client/show-client';
import { FileButton } from '../parts/file-button';
import { Check, Choice, Num, Numbers, Part } from '../parts/fields';
import { useAddFont } from './images';

export const WEIGHTS = [
  ['400', 'regular'],
  ['600', 'semibold'],
  ['700', 'bold'],
] as const;
const OVERFLOW_WORDS: Record<TextStyle['overflow'], string> = {
  shrink: 'gets smaller',
  squeeze: 'gets narrower',
  ellipsis: 'ends with …',
  spill: 'reaches out of its box',
  grow: 'the box grows',
};

/** The type of a text or a clock. */
export function TypeFields({ style, set, grows }: { style: TextStyle; set: (change: Partial<TextStyle>) => void; grows: boolean }) {
  const addFont = useAddFont();
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
          all={OVERFLOWS.filter((o) => grows || o !== 'grow').map((o) => [o, OVERFLOW_WORDS[o]] as const)}
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

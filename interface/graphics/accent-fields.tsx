/** Other styles inside a text, each behind a sign of its own. */
import { Plus, Trash2 } from 'lucide-react';
import { createAccent } from '#core/graphics/create';
import { type Accent, ACCENT_SIGNS } from '#core/graphics/element';
import { FAMILIES } from '#core/graphics/families';
import { useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { Check, Choice, ColourField, Num, Numbers, Part } from '../parts/fields';
import { WEIGHTS } from './type-fields';

export function AccentFields({ accents, onChange }: { accents: readonly Accent[]; onChange: (accents: Accent[]) => void }) {
  const fonts = useShow(({ desk }) => desk.show.graphics.fonts);
  const free = ACCENT_SIGNS.find((sign) => !accents.some((a) => a.sign === sign));
  const put = (index: number, change: Partial<Accent>) => onChange(accents.map((a, i) => (i === index ? { ...a, ...change } : a)));
  return (
    <Part
      title="Other styles inside"
      action={
        <Button
          aria-label="Add a style inside the text"
          unusable={free === undefined ? `A text has ${ACCENT_SIGNS.length} of them at most.` : null}
          onClick={() => free && onChange([...accents, createAccent(free)])}
        >
          <Plus size={14} /> Style
        </Button>
      }
    >
      {accents.map((accent, i) => (
        <div key={accent.sign} className="flex flex-col gap-1.5 border-l-2 border-line pl-1.5">
          <div className="flex items-center gap-1">
            <span className="figures flex-1 text-sm">
              {accent.sign}words{accent.sign}
            </span>
            <Check label="italic" on={accent.italic} onChange={(italic) => put(i, { italic })} />
            <IconButton label={`Remove the style ${accent.sign}`} onClick={() => onChange(accents.filter((_, n) => n !== i))}>
              <Trash2 size={14} />
            </IconButton>
          </div>
          <Numbers>
            <Choice
              label={`${accent.sign} family`}
              value={accent.family ?? ''}
              all={[['', 'that of the text'], ...[...FAMILIES, ...fonts].map((f) => [f.family, f.family] as const)]}
              onChange={(family) => put(i, { family: family === '' ? null : family })}
            />
            <Choice
              label={`${accent.sign} weight`}
              value={String(accent.weight ?? '')}
              all={[['', 'that of the text'], ...WEIGHTS]}
              onChange={(weight) => put(i, { weight: weight === '' ? null : Number(weight) })}
            />
            <Num
              label={`${accent.sign} size`}
              unit="%"
              min={20}
              max={400}
              digits={0}
              value={accent.size * 100}
              onCommit={(size) => put(i, { size: size / 100 })}
            />
          </Numbers>
          <div className="flex items-end gap-2">
            <Check label="its own colour" on={accent.colour !== null} onChange={(on) => put(i, { colour: on ? '#e2c48d' : null })} />
            {accent.colour !== null && (
              <ColourField label={`${accent.sign} colour`} colour={accent.colour} onChange={({ colour }) => colour && put(i, { colour })} />
            )}
          </div>
        </div>
      ))}
      {accents.length === 0 ? (
        <p className="text-xs text-muted">None. With one, words between two of its signs are set differently, also in entries.</p>
      ) : (
        <p className="text-xs text-muted">Two signs around words set them so. A backslash before a sign shows the sign itself.</p>
      )}
    </Part>
  );
}

/** The formula of a field: written, checked as one types, tried on the entry that is chosen. */
import { useMemo } from 'react';
import { formulaOf } from '#core/formula/evaluate';
import { MOST_FORMULA } from '#core/formula/document';
import { FormulaError } from '#core/formula/parse';
import { type Field, type Graphic } from '#core/graphics/document';
import { wordsOf } from '#core/graphics/values';
import { aroundAt } from '#core/sheets/around';
import { rowKeys } from '#core/sheets/rows';
import { formulaValue, worldOf } from '#core/sheets/into-entries';
import { useShow, useShowClient } from '../client/show-client';
import { useDraft } from '../parts/use-draft';
import { chosenEntry, useGraphicsRoom } from './room-state';

/** What a formula comes to for the chosen entry, or why it comes to nothing. */
function useTrial(graphic: Graphic, field: Field, text: string): { words: string; wrong: boolean } | null {
  const client = useShowClient();
  const show = useShow(({ desk }) => desk.show);
  const entryId = useGraphicsRoom((s) => s.entryId);
  return useMemo(() => {
    if (text.trim() === '') return null;
    const read = formulaOf(text);
    if (read instanceof FormulaError) return { words: `Character ${read.at + 1}: ${read.message}`, wrong: true };
    const entry = chosenEntry(graphic, entryId);
    if (!entry) return { words: 'It can be read. It is worked out as soon as there are entries.', wrong: false };
    const sheet = show.sheets.find((s) => s.id === graphic.sheet?.sheetId) ?? null;
    const row = sheet && entry.rowKey !== null ? (rowKeys(sheet).places.get(entry.rowKey) ?? -1) : -1;
    const around = aroundAt(client.state.desk, client.state.frame);
    const tried = { ...field, formula: text };
    const value = formulaValue(tried, worldOf(graphic, tried, entry.values, sheet, row, around));
    return 'kind' in value
      ? { words: `= ${wordsOf(value) || 'nothing'}`, wrong: false }
      : { words: `Character ${value.at + 1}: ${value.why}`, wrong: true };
  }, [client, show, graphic, field, text, entryId]);
}

export function FormulaField({ graphic, field, onSave }: { graphic: Graphic; field: Field; onSave: (formula: string | null) => void }) {
  const kept = field.formula ?? '';
  const [text, setText] = useDraft(kept);
  const trial = useTrial(graphic, field, text);
  const save = () => {
    if (text === kept || formulaOf(text) instanceof FormulaError) return text.trim() === '' && kept !== '' ? onSave(null) : undefined;
    return onSave(text.trim() === '' ? null : text);
  };
  return (
    <div className="flex flex-col gap-0.5">
      <input
        aria-label={`Formula of ${field.name}`}
        aria-invalid={trial?.wrong ?? false}
        placeholder="Formula, such as upper(Name) or rank([Points])"
        title="Fills the field in for every entry: see docs/formulas.md"
        className={`figures w-full min-w-0 text-xs ${trial?.wrong ? 'border-caution!' : ''}`}
        maxLength={MOST_FORMULA}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={save}
        onKeyDown={(e) => {
          if (e.key === 'Enter') save();
          if (e.key === 'Escape') setText(kept);
        }}
      />
      {trial && (
        <output
          aria-label={`What the formula of ${field.name} comes to`}
          className={`text-xs ${trial.wrong ? 'text-caution' : 'text-muted'}`}
        >
          {trial.words}
        </output>
      )}
    </div>
  );
}

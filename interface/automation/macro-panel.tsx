/** A macro as a whole: name, number, colour, note, and what happens when a step is refused. */
import { type Macro, ON_FAILURE } from '#core/automation/document';
import { useSend, useShow } from '../client/show-client';
import { Choice, ColourField, Line, ThingChoice } from '../parts/fields';
import { NumberField } from '../parts/number-field';
import { useDraft } from '../parts/use-draft';
import { AsksPanel } from './asks-panel';

const FAILURE_WORDS: Record<Macro['onFailure'], string> = {
  stop: 'it stops; all stays as it is',
  'go-on': 'it goes on without it',
  fallback: 'it stops, and another runs',
};

export function MacroPanel({ macro }: { macro: Macro }) {
  const send = useSend();
  const macros = useShow(({ desk }) => desk.show.automation.macros);
  const [note, setNote] = useDraft(macro.note);
  const set = (change: object) => send('macro.set', { macro: macro.id, ...change });
  return (
    <div className="flex flex-col gap-2 p-3 text-[13px] text-muted">
      <Line showLabel max={60} label="Name of the macro" value={macro.name} onSave={(name) => set({ name })} />
      <div className="flex items-end gap-2">
        <NumberField
          showLabel
          label="Number (0: none)"
          min={0}
          max={99}
          value={macro.number ?? 0}
          onCommit={(n) => set({ number: n === 0 ? null : n })}
        />
        <ColourField label="Colour of the macro" colour={macro.colour} onChange={set} />
      </div>
      <Choice
        label="When a step is refused"
        value={macro.onFailure}
        all={ON_FAILURE.map((way) => [way, FAILURE_WORDS[way]] as const)}
        onChange={(onFailure) => set({ onFailure })}
      />
      {macro.onFailure === 'fallback' && (
        <ThingChoice
          label="Macro that runs then"
          value={macro.fallbackId}
          all={macros.filter((m) => m.id !== macro.id)}
          onChange={(fallbackId) => set({ fallbackId })}
        />
      )}
      <label className="flex flex-col gap-0.5">
        Note
        <textarea
          aria-label="Note of the macro"
          maxLength={400}
          rows={4}
          value={note}
          onChange={(e) => setNote(e.target.value)}
          onBlur={() => note !== macro.note && set({ note })}
        />
      </label>
      <AsksPanel macro={macro} />
    </div>
  );
}

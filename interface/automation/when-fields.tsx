/** The fields of an event: of what a trigger waits for, of a condition, of what lights a button. */
import { createWhen } from '#core/automation/create';
import { type When, WHEN_EVENTS, type WhenEvent } from '#core/automation/document';
import { EVENTS } from '#core/automation/events';
import { entitiesOf } from '#core/desk/entities';
import { useShow } from '../client/show-client';
import { arePictures } from '../shell/argument-choices';
import { Choice, Line, ThingChoice, TimeOfDayField } from '../parts/fields';
import { NumberField } from '../parts/number-field';

export const ALL_EVENTS = WHEN_EVENTS.map((e) => [e, EVENTS[e].words] as const);
export const ALL_STATES = WHEN_EVENTS.flatMap((e) => {
  const { state } = EVENTS[e];
  return state === undefined ? [] : [[e, state] as const];
});

export function WhenFields({
  when,
  label,
  events,
  onChange,
}: {
  when: When;
  label: string;
  events: readonly (readonly [WhenEvent, string])[];
  onChange: (when: When) => void;
}) {
  const show = useShow(({ desk }) => desk.show);
  const { of } = EVENTS[when.event];
  const id = of ? when[of.field] : null;
  const sheet = show.sheets.find((s) => s.id === when.sheetId);
  return (
    <div className="flex flex-wrap items-end gap-2">
      <Choice label={label} value={when.event} all={events} onChange={(event) => onChange(createWhen(event))} />
      {of && (
        <ThingChoice
          label="Which"
          name={`${label}: which`}
          value={typeof id === 'string' ? id : null}
          {...(of.field === 'guestId' && { none: 'any' })}
          pictures={arePictures(of.to)}
          all={entitiesOf(show, of.to)}
          onChange={(next) => onChange({ ...when, [of.field]: next })}
        />
      )}
      {when.event === 'clock-passes' && (
        <NumberField
          showLabel
          label="Seconds on it"
          digits={1}
          min={-86_400}
          max={86_400}
          value={when.seconds ?? 0}
          onCommit={(seconds) => onChange({ ...when, seconds })}
        />
      )}
      {(when.event === 'level-over' || when.event === 'level-under') && (
        <NumberField
          showLabel
          label="dBFS"
          digits={1}
          min={-60}
          max={0}
          value={when.db ?? -20}
          onCommit={(db) => onChange({ ...when, db })}
        />
      )}
      {when.event === 'roll-ends' && (
        <NumberField
          showLabel
          label="Deck"
          min={1}
          max={2}
          value={when.deck ?? 1}
          onCommit={(deck) => onChange({ ...when, deck: deck === 2 ? 2 : 1 })}
        />
      )}
      {when.event === 'device-says' && (
        <Line
          showLabel
          empty
          max={200}
          label="Says (* stands for anything)"
          value={when.value}
          onSave={(value) => onChange({ ...when, value })}
        />
      )}
      {when.event === 'time' && (
        <TimeOfDayField label="Time of day" value={when.seconds} onChange={(seconds) => onChange({ ...when, seconds })} />
      )}
      {when.event === 'cell-is' && (
        <>
          <Line showLabel empty max={120} label="Row: key or place" value={when.row} onSave={(row) => onChange({ ...when, row })} />
          <ThingChoice
            label="Column"
            value={when.column || null}
            all={(sheet?.columns ?? []).map((c) => ({ id: c, name: c }))}
            onChange={(column) => onChange({ ...when, column: column ?? '' })}
          />
          <Line showLabel empty max={200} label="Says" value={when.value} onSave={(value) => onChange({ ...when, value })} />
        </>
      )}
    </div>
  );
}

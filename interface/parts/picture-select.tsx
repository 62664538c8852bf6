/** Choices of things in the show: pictures of the kinds asked for, outputs, and what a box shows. */
import { ENTITIES, type Entity } from '#core/desk/entities';
import { entryName } from '#core/graphics/find';
import { type LaneContent } from '#core/picture/document';
import { BOX_CONTENTS, type BoxContent } from '#core/layout/document';
import { type EntityKind } from '#core/schema/kinds';
import { useShow } from '../client/show-client';

const LABELS = {
  seat: 'Seats',
  source: 'Sources',
  framing: 'Framings',
  layout: 'Layouts',
  preset: 'Presets',
  output: 'Outputs',
  screen: 'Outputs of the show',
  graphic: 'Graphics',
  entry: 'Entries',
  gathering: 'Gathered views',
} as const satisfies Partial<Record<EntityKind, string>>;

/** Kinds that can be chosen from here. */
export type ChoosableKind = keyof typeof LABELS;

/** The lists of these kinds as the show has them; the very same arrays as long as they do not change. */
function useLists(kinds: readonly ChoosableKind[]): Partial<Record<ChoosableKind, readonly Entity[]>> {
  return useShow(({ desk: { show } }) => Object.fromEntries(kinds.map((kind) => [kind, ENTITIES[kind].list(show)])));
}

/** The choices of one kind under their heading; a value is `prefix` and the identity. */
function Group({ kind, list, prefix = '' }: { kind: ChoosableKind; list: readonly Entity[] | undefined; prefix?: string }) {
  if (!list || list.length === 0) return null;
  return (
    <optgroup label={LABELS[kind]}>
      {list.map((item) => (
        <option key={item.id} value={`${prefix}${item.id}`}>
          {item.name || '(no name)'}
        </option>
      ))}
    </optgroup>
  );
}

/** Chooses one thing of the show, of the kinds asked for; an empty value for none. */
export function PictureSelect({
  label,
  value,
  onChange,
  kinds,
  none = 'none',
  keep = () => true,
  className,
  role,
}: {
  label: string;
  /** For keys that go to it. */
  role?: string;
  value: string | null;
  onChange: (id: string | null) => void;
  kinds: readonly ChoosableKind[];
  none?: string;
  /** What may be chosen; without it, everything. */
  keep?: (item: Entity) => boolean;
  className?: string;
}) {
  const lists = useLists(kinds);
  return (
    <select
      data-role={role}
      aria-label={label}
      className={className}
      value={value ?? ''}
      onChange={(e) => onChange(e.target.value || null)}
    >
      <option value="">{none}</option>
      {kinds.map((kind) => (
        <Group key={kind} kind={kind} list={lists[kind]?.filter(keep)} />
      ))}
    </select>
  );
}

const CONTENT_KINDS: readonly ChoosableKind[] = BOX_CONTENTS.filter((kind) => kind !== 'colour' && kind !== 'entry');

/** Chooses what a box shows: a seat, a picture of any kind, or a colour. */
export function ContentSelect({
  label,
  content,
  onChange,
  layoutId,
  none,
  role,
}: {
  label: string;
  role?: string;
  content: BoxContent | null;
  onChange: (content: BoxContent | null) => void;
  layoutId: string;
  none: string;
}) {
  const lists = useLists([...CONTENT_KINDS, 'preset']);
  const value = content === null ? '' : content.kind === 'colour' ? 'colour' : `${content.kind} ${content.id ?? ''}`;
  const choose = (text: string) => {
    if (text === '') return onChange(null);
    if (text === 'colour') return onChange({ kind: 'colour', colour: '#16405a' });
    const [kind, id] = text.split(' ');
    return onChange({ kind: kind as BoxContent['kind'], id: id ?? '' });
  };
  const others = (list: readonly Entity[] | undefined) => list?.filter((l) => l.id !== layoutId);
  return (
    <span className="flex min-w-0 gap-1">
      <select data-role={role} aria-label={label} className="min-w-0 flex-1" value={value} onChange={(e) => choose(e.target.value)}>
        <option value="">{none}</option>
        {CONTENT_KINDS.map((kind) => (
          <Group key={kind} kind={kind} list={others(lists[kind])} prefix={`${kind} `} />
        ))}
        <Group kind="preset" list={others(lists.preset)} prefix="layout " />
        <option value="colour">A colour</option>
      </select>
      {content?.kind === 'colour' && (
        <input
          type="color"
          aria-label={`${label}: colour`}
          className="h-8 w-10 shrink-0 p-0.5!"
          value={content.colour ?? '#000000'}
          onChange={(e) => onChange({ kind: 'colour', colour: e.target.value })}
        />
      )}
    </span>
  );
}

const LANE_KINDS: readonly ChoosableKind[] = ['graphic', 'layout', 'seat', 'framing', 'source', 'gathering'];
/** Entries of one graphic that a list offers; the table in Graphics has all. */
const MOST_OFFERED = 200;

/** Chooses what a lane holds ready: an entry of the graphic that it holds, or a picture of any kind. */
export function LaneContentSelect({
  label,
  content,
  onChange,
}: {
  label: string;
  content: LaneContent | null;
  onChange: (content: LaneContent | null) => void;
}) {
  const lists = useLists(LANE_KINDS);
  const graphics = useShow(({ desk: { show } }) => show.graphics.list);
  const held = graphics.find((g) => g.id === content?.id || g.entries.some((e) => e.id === content?.id));
  const entries = held?.entries.filter((e, i) => i < MOST_OFFERED || e.id === content?.id) ?? [];
  return (
    <select
      aria-label={label}
      className="min-w-0 flex-1"
      value={content?.id ?? ''}
      onChange={(e) => onChange(e.target.value === '' ? null : { kind: 'picture', id: e.target.value })}
    >
      <option value="">nothing held ready</option>
      {held && entries.length > 0 && (
        <optgroup label={`Entries of ${held.name}`}>
          {entries.map((entry) => (
            <option key={entry.id} value={entry.id}>
              {entryName(held, entry)}
            </option>
          ))}
        </optgroup>
      )}
      {LANE_KINDS.map((kind) => (
        <Group key={kind} kind={kind} list={lists[kind]} />
      ))}
    </select>
  );
}

import { type BoxContent } from '#core/layout/document';
import { useHostState } from '../host/host-context';

interface Choice {
  id: string;
  name: string;
}

function Options({ label, list, prefix }: { label: string; list: readonly Choice[]; prefix: string }) {
  if (list.length === 0) return null;
  return (
    <optgroup label={label}>
      {list.map((c) => (
        <option key={c.id} value={`${prefix}${c.id}`}>
          {c.name}
        </option>
      ))}
    </optgroup>
  );
}

type Kind = 'seat' | 'source' | 'framing' | 'layout' | 'preset';

const LABELS: Record<Kind, string> = { seat: 'Seats', source: 'Sources', framing: 'Framings', layout: 'Layouts', preset: 'Presets' };

/** Chooses one picture of the show, of the kinds asked for; an empty value for none. */
export function PictureSelect({
  label,
  value,
  onChange,
  kinds,
  none = 'none',
  except,
  className,
}: {
  label: string;
  value: string | null;
  onChange: (id: string | null) => void;
  kinds: Kind[];
  none?: string;
  except?: string;
  className?: string;
}) {
  const lists = useHostState(({ desk: { show } }) => ({
    seat: show.seats,
    source: show.sources,
    framing: show.framings,
    layout: show.layouts,
    preset: show.presets,
  }));
  return (
    <select aria-label={label} className={className} value={value ?? ''} onChange={(e) => onChange(e.target.value || null)}>
      <option value="">{none}</option>
      {kinds.map((kind) => (
        <Options key={kind} label={LABELS[kind]} list={lists[kind].filter((c) => c.id !== except)} prefix="" />
      ))}
    </select>
  );
}

/** Chooses what a box shows: a seat, a picture of any kind, or a colour. */
export function ContentSelect({
  label,
  content,
  onChange,
  layoutId,
  none,
}: {
  label: string;
  content: BoxContent | null;
  onChange: (content: BoxContent | null) => void;
  layoutId: string;
  none: string;
}) {
  const lists = useHostState(({ desk: { show } }) => ({
    seat: show.seats,
    source: show.sources,
    framing: show.framings,
    layout: [...show.layouts, ...show.presets].map(({ id, name }) => `${id}\n${name}`).join('\t'),
  }));
  const layouts =
    lists.layout === '' ? [] : lists.layout.split('\t').map((l) => ({ id: l.split('\n')[0] ?? '', name: l.split('\n')[1] ?? '' }));
  const value = content === null ? '' : content.kind === 'colour' ? 'colour' : `${content.kind} ${content.id ?? ''}`;
  const choose = (text: string) => {
    if (text === '') return onChange(null);
    if (text === 'colour') return onChange({ kind: 'colour', colour: '#16405a' });
    const [kind, id] = text.split(' ');
    return onChange({ kind: kind as 'source', id: id ?? '' });
  };
  return (
    <span className="flex min-w-0 gap-1">
      <select aria-label={label} className="min-w-0 flex-1" value={value} onChange={(e) => choose(e.target.value)}>
        <option value="">{none}</option>
        <Options label={LABELS.seat} list={lists.seat} prefix="seat " />
        <Options label={LABELS.source} list={lists.source} prefix="source " />
        <Options label={LABELS.framing} list={lists.framing} prefix="framing " />
        <Options label={LABELS.layout} list={layouts.filter((l) => l.id !== layoutId)} prefix="layout " />
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

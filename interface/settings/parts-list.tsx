/** The parts of a show, to be chosen one by one or by the kind. */
import { memo } from 'react';
import { type Part, PART_KINDS, partKey, PARTS } from '#core/parts/kinds';
import { choosePart } from './room-state';

/** All things of one kind; `along` are those that go along because others need them. */
const Kind = memo(function Kind({
  title,
  parts,
  chosen,
  along,
}: {
  title: string;
  parts: readonly Part[];
  chosen: ReadonlySet<string>;
  along: ReadonlySet<string>;
}) {
  const keys = parts.map(partKey);
  const on = keys.filter((key) => chosen.has(key)).length;
  return (
    <section className="mb-3 break-inside-avoid-column" aria-label={title}>
      <label className="flex items-center gap-2 border-b border-line pb-0.5 font-semibold">
        <input
          type="checkbox"
          checked={on === keys.length}
          ref={(box) => {
            if (box) box.indeterminate = on > 0 && on < keys.length;
          }}
          onChange={(e) => choosePart(keys, e.target.checked)}
        />
        <span className="min-w-0 flex-1 truncate">{title}</span>
        <span className="figures text-[13px] font-normal text-muted">
          {on} of {keys.length}
        </span>
      </label>
      <ul>
        {parts.map((part, i) => {
          const key = keys[i] as string;
          return (
            <li key={key}>
              <label className="flex min-h-6 items-center gap-2 pl-3 text-sm">
                <input type="checkbox" checked={chosen.has(key)} onChange={(e) => choosePart([key], e.target.checked)} />
                <span className="min-w-0 flex-1 truncate" title={part.name}>
                  {part.name}
                </span>
                {along.has(key) && <span className="text-[13px] text-straw">goes along</span>}
              </label>
            </li>
          );
        })}
      </ul>
    </section>
  );
});

export const PartsList = ({
  parts,
  chosen,
  along,
}: {
  parts: readonly Part[];
  chosen: ReadonlySet<string>;
  along: ReadonlySet<string>;
}) => (
  <div className="columns-[15rem] gap-6">
    {PART_KINDS.map((kind) => {
      const own = parts.filter((p) => p.kind === kind);
      return own.length > 0 && <Kind key={kind} title={PARTS[kind].title} parts={own} chosen={chosen} along={along} />;
    })}
  </div>
);

/** The tree of elements, front to back: order, lock, hide, rename, groups. */
import { Eye, EyeOff, Lock, LockOpen } from 'lucide-react';
import { useState } from 'react';
import { type Graphic } from '#core/graphics/document';
import { type Element } from '#core/graphics/element';
import { useSend } from '../client/show-client';
import { IconButton } from '../parts/icon-button';
import { region } from '../parts/region';
import { useRoving } from '../parts/roving';
import { setGraphicsRoom, useGraphicsRoom } from './room-state';

interface Row {
  element: Element;
  depth: number;
}

/** Elements in the order of the tree: the frontmost first, what is in a group below it. */
function rowsOf(elements: readonly Element[], parentId: string | null = null, depth = 0): Row[] {
  return elements
    .filter((e) => e.parentId === parentId)
    .reverse()
    .flatMap((element) => [{ element, depth }, ...(element.content.kind === 'group' ? rowsOf(elements, element.id, depth + 1) : [])]);
}

function Rename({ graphic, element, onDone }: { graphic: Graphic; element: Element; onDone: () => void }) {
  const send = useSend();
  const [text, setText] = useState(element.name);
  const save = () => {
    if (text !== '' && text !== element.name) send('element.set', { graphic: graphic.id, elements: [element.id], name: text });
    onDone();
  };
  return (
    <input
      autoFocus
      aria-label={`Name of ${element.name}`}
      className="min-w-0 flex-1"
      maxLength={60}
      value={text}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setText(e.target.value)}
      onBlur={save}
      onKeyDown={(e) => {
        if (e.key === 'Enter') save();
        if (e.key === 'Escape') onDone();
      }}
    />
  );
}

export function ElementTree({ graphic }: { graphic: Graphic }) {
  const send = useSend();
  const box = useRoving<HTMLElement>();
  const chosen = useGraphicsRoom((s) => s.chosen);
  const [renaming, setRenaming] = useState<string | null>(null);
  const [dragged, setDragged] = useState<string | null>(null);
  const set = (element: Element, change: object) => send('element.set', { graphic: graphic.id, elements: [element.id], ...change });
  const drop = (target: Element) => {
    if (dragged === null || dragged === target.id) return;
    // Onto a group: into it; onto anything else: right in front of it.
    if (target.content.kind === 'group') send('element.into', { graphic: graphic.id, elements: [dragged], group: target.id });
    else send('element.order', { graphic: graphic.id, elements: [dragged], index: graphic.elements.indexOf(target) });
    setDragged(null);
  };
  return (
    <section ref={box} {...region('tree', 'Elements')} className="min-h-0 flex-1 overflow-y-auto">
      {graphic.elements.length === 0 && (
        <p className="p-2 text-muted">Nothing is drawn yet. Choose what to draw above the stage, or drop an image on it.</p>
      )}
      <ul role="tree" aria-label={`Elements of ${graphic.name}`}>
        {rowsOf(graphic.elements).map(({ element, depth }) => (
          <li
            key={element.id}
            role="treeitem"
            aria-selected={chosen.includes(element.id)}
            draggable={renaming === null}
            onDragStart={() => setDragged(element.id)}
            onDragOver={(e) => e.preventDefault()}
            onDrop={() => drop(element)}
            className={`flex items-center border-l-2 ${chosen.includes(element.id) ? 'border-straw bg-raised' : 'border-transparent hover:bg-panel'}`}
            style={{ paddingLeft: 4 + depth * 14 }}
          >
            {renaming === element.id ? (
              <Rename graphic={graphic} element={element} onDone={() => setRenaming(null)} />
            ) : (
              <button
                type="button"
                className={`min-h-7 min-w-0 flex-1 truncate text-left ${element.visible ? '' : 'text-muted line-through'}`}
                title={`${element.name}: press twice to rename, drag to another place`}
                onClick={(e) =>
                  setGraphicsRoom({
                    chosen: e.shiftKey
                      ? chosen.includes(element.id)
                        ? chosen.filter((id) => id !== element.id)
                        : [...chosen, element.id]
                      : [element.id],
                  })
                }
                onDoubleClick={() => setRenaming(element.id)}
              >
                {element.content.kind === 'group' ? '▾ ' : ''}
                {element.name}
              </button>
            )}
            <IconButton
              label={`${element.visible ? 'Hide' : 'Show'} ${element.name}`}
              onClick={() => set(element, { visible: !element.visible })}
            >
              {element.visible ? <Eye size={14} /> : <EyeOff size={14} />}
            </IconButton>
            <IconButton
              label={`${element.locked ? 'Unlock' : 'Lock'} ${element.name}`}
              onClick={() => set(element, { locked: !element.locked })}
            >
              {element.locked ? <Lock size={14} className="text-straw" /> : <LockOpen size={14} />}
            </IconButton>
          </li>
        ))}
      </ul>
    </section>
  );
}

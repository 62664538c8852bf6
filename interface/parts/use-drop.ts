/** Things that are dragged to another place, by the kind of thing that they are. */
import { type DragEvent, useState } from 'react';

/** A place where things of a kind can be dropped; `over` while one is above it. */
export function useDrop(type: string, drop: (ids: string[]) => void) {
  const [over, setOver] = useState(false);
  return {
    over,
    handlers: {
      onDragOver: (e: DragEvent) => {
        if (!e.dataTransfer.types.includes(type)) return;
        e.preventDefault();
        setOver(true);
      },
      onDragLeave: () => setOver(false),
      onDrop: (e: DragEvent) => {
        setOver(false);
        const ids = e.dataTransfer.getData(type).split(' ').filter(Boolean);
        if (ids.length === 0) return;
        e.preventDefault();
        drop(ids);
      },
    },
  };
}

/** Begins to drag things of a kind. */
export const dragOf = (type: string, ids: () => readonly string[]) => ({
  draggable: true,
  onDragStart: (e: DragEvent) => {
    e.dataTransfer.setData(type, ids().join(' '));
    e.dataTransfer.effectAllowed = 'move';
  },
});

/**
 * A row of a list whose order is changed by dragging: all that are chosen go along with one of them. `all` is the list in its order; `move`
 * gets what
 * is moved, and the place of the first among the others.
 */
export function useRowDrag(
  type: string,
  id: string,
  all: readonly { id: string }[],
  chosen: () => readonly string[],
  move: (ids: string[], index: number) => void,
) {
  const { over, handlers } = useDrop(type, (ids) => {
    if (ids.includes(id)) return;
    const others = all.filter((x) => !ids.includes(x.id));
    move(
      ids,
      others.findIndex((x) => x.id === id),
    );
  });
  const moving = () => {
    const picked = chosen();
    return picked.includes(id) ? all.filter((x) => picked.includes(x.id)).map((x) => x.id) : [id];
  };
  return { over, handlers: { ...dragOf(type, moving), ...handlers } };
}

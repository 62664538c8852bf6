/** What is done with the chosen boxes: order, align, distribute, copy, remove. */
import {
  AlignCenterHorizontal,
  AlignCenterVertical,
  AlignEndHorizontal,
  AlignEndVertical,
  AlignHorizontalSpaceBetween,
  AlignStartHorizontal,
  AlignStartVertical,
  AlignVerticalSpaceBetween,
  BringToFront,
  ClipboardPaste,
  Copy,
  CopyPlus,
  Crop,
  Eye,
  EyeOff,
  Lock,
  LockOpen,
  Magnet,
  Plus,
  SendToBack,
  SquareDashed,
  Trash2,
} from 'lucide-react';
import { type ReactNode } from 'react';
import { type Alignment } from '#core/layout/arrange';
import { type Box, type Layout } from '#core/layout/document';
import { useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { type CanvasTools } from './room-state';

const ALIGN: [Alignment, string, ReactNode][] = [
  ['left', 'Left edges', <AlignStartVertical key="l" size={16} />],
  ['centre', 'Middles across', <AlignCenterVertical key="c" size={16} />],
  ['right', 'Right edges', <AlignEndVertical key="r" size={16} />],
  ['top', 'Top edges', <AlignStartHorizontal key="t" size={16} />],
  ['middle', 'Middles down', <AlignCenterHorizontal key="m" size={16} />],
  ['bottom', 'Bottom edges', <AlignEndHorizontal key="b" size={16} />],
];

interface BoxToolsProps {
  layout: Layout;
  boxes: readonly Box[];
  tools: CanvasTools;
  onTools: (change: Partial<CanvasTools>) => void;
  copied: { layout: string; box: string } | null;
  onCopy: () => void;
  onPaste: () => void;
  onChoose: (ids: string[]) => void;
}

/** Everything done to boxes at once: adding, order, alignment, geometry copied from one to another. */
export function BoxTools({ layout, boxes, tools, onTools, copied, onCopy, onPaste, onChoose }: BoxToolsProps) {
  const send = useSend();
  const ids = boxes.map((b) => b.id);
  const first = boxes[0];
  const none = first ? null : 'Choose a box first.';
  const act = (label: string, icon: ReactNode, run: () => void, unusable: string | null = none, pressed?: boolean) => (
    <Button
      look="quiet"
      className={`px-1! ${pressed ? 'text-straw!' : ''}`}
      aria-label={label}
      title={label}
      unusable={unusable}
      {...(pressed === undefined ? {} : { pressed })}
      onClick={run}
    >
      {icon}
    </Button>
  );
  const order = (index: number) => first && send('box.order', { layout: layout.id, box: first.id, index });
  return (
    <div className="flex flex-wrap items-center border-b border-line bg-panel px-1" role="toolbar" aria-label="Boxes">
      <Button className="mr-1" onClick={() => send('box.add', { layout: layout.id })}>
        <Plus size={15} /> Box
      </Button>
      {act('Duplicate (Ctrl D)', <CopyPlus size={16} />, () => send('box.duplicate', { layout: layout.id, boxes: ids }))}
      {act('Copy geometry (Ctrl C)', <Copy size={16} />, onCopy)}
      {act(
        'Paste geometry (Ctrl V)',
        <ClipboardPaste size={16} />,
        onPaste,
        first ? (copied ? null : 'Copy the geometry of a box first.') : none,
      )}
      {act('Bring to front', <BringToFront size={16} />, () => order(64))}
      {act('Send to back', <SendToBack size={16} />, () => order(0))}
      {act(first?.visible === false ? 'Show' : 'Hide', first?.visible === false ? <EyeOff size={16} /> : <Eye size={16} />, () =>
        send('box.set', { layout: layout.id, boxes: ids, visible: first?.visible === false }),
      )}
      {act(first?.locked ? 'Unlock' : 'Lock', first?.locked ? <Lock size={16} /> : <LockOpen size={16} />, () =>
        send('box.set', { layout: layout.id, boxes: ids, locked: !first?.locked }),
      )}
      {act('Remove (Delete)', <Trash2 size={16} />, () => send('box.remove', { layout: layout.id, boxes: ids }) && onChoose([]))}
      <span className="mx-1 h-5 border-l border-line" />
      {ALIGN.map(([how, label, icon]) => (
        <span key={how}>
          {act(`${label}${boxes.length === 1 ? ' to the picture' : ''}`, icon, () =>
            send('box.align', { layout: layout.id, boxes: ids, how }),
          )}
        </span>
      ))}
      {act(
        'Equal gaps across',
        <AlignHorizontalSpaceBetween size={16} />,
        () => send('box.distribute', { layout: layout.id, boxes: ids, axis: 'across' }),
        boxes.length < 3 ? 'Choose three boxes or more.' : null,
      )}
      {act(
        'Equal gaps down',
        <AlignVerticalSpaceBetween size={16} />,
        () => send('box.distribute', { layout: layout.id, boxes: ids, axis: 'down' }),
        boxes.length < 3 ? 'Choose three boxes or more.' : null,
      )}
      <span className="mx-1 h-5 border-l border-line" />
      {act('Crop with the handles (C)', <Crop size={16} />, () => onTools({ crop: !tools.crop }), null, tools.crop)}
      {act(
        'Snap to edges, thirds, safe areas and boxes; Alt leaves it for one drag',
        <Magnet size={16} />,
        () => onTools({ snap: !tools.snap }),
        null,
        tools.snap,
      )}
      {act('Safe areas, 93 % and 90 %', <SquareDashed size={16} />, () => onTools({ safe: !tools.safe }), null, tools.safe)}
      <span className="figures ml-auto px-2 text-xs text-muted" role="status">
        {boxes.length === 0 ? `${layout.boxes.length} boxes` : `${boxes.length}/${layout.boxes.length} chosen`}
      </span>
    </div>
  );
}

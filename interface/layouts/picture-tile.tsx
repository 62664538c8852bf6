/** A picture of any kind as a tile that can be put into Next. */
import { type MouseEvent } from 'react';
import { useSend } from '../client/show-client';
import { useTally } from '../client/use-tally';
import { Monitor } from '../parts/monitor';
import { TallyFrame, tallyWords } from '../parts/tally-frame';

/** A layout or preset as a switch: a press sets Next, with Shift it cuts to air. */
export function PictureTile({
  id,
  name,
  number,
  onPress,
  chosen,
}: {
  id: string;
  name: string;
  number: number | null;
  onPress?: () => void;
  chosen?: boolean;
}) {
  const send = useSend();
  const tally = useTally(id);
  const press = (event: MouseEvent) =>
    onPress && !event.shiftKey ? onPress() : send(event.shiftKey ? 'picture.cut' : 'picture.setNext', { picture: id });
  return (
    <button
      type="button"
      className={`block w-full text-left ${chosen ? 'outline-2 outline-straw' : ''}`}
      aria-label={`${number === null ? '' : `${number} `}${name}: ${tallyWords(tally)}`}
      aria-pressed={chosen}
      title={onPress ? name : `${name}: press for Next, Shift and press for air`}
      onClick={press}
    >
      <span className="relative block aspect-video bg-black">
        <Monitor picture={{ kind: 'picture', id }} label="" className="h-full w-full" />
        <TallyFrame tally={tally} small />
      </span>
      <span className="flex items-center gap-1 bg-panel px-1 leading-6">
        {number !== null && <span className="figures min-w-4 font-semibold text-straw">{number}</span>}
        <span className="truncate text-[13px]">{name}</span>
      </span>
    </button>
  );
}

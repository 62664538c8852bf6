/** The time that a media file has left. */
import clsx from 'clsx';
import { playerState } from '#core/media/player';
import { picturesWithin, findSource } from '#core/desk/pictures';
import { formatTimeLeft } from '#core/time/duration';
import { useLive } from '../client/show-client';

/** Time left of a media source; empty for others. In its last ten seconds it becomes a filled block. */
export function TimeLeft({ sourceId, className }: { sourceId: string | null; className?: string }) {
  const { text, ending, state } = useLive(({ desk: { show, air }, frame }) => {
    // Of a layout, the clip in it that plays, or else its first.
    const clips = [...picturesWithin(show, sourceId)]
      .flatMap((id) => findSource(show, id) ?? [])
      .filter((s) => s.settings.kind === 'media');
    const source = clips.find((s) => air.players[s.id]?.playing) ?? clips[0];
    if (!source || source.settings.kind !== 'media') return { text: '', ending: false, state: '' };
    const now = playerState(air, source.id, source.settings, frame, show.rate);
    const loops = source.settings.atEnd === 'loop' && now.playing;
    const mark = now.playing ? (loops ? '↻' : '▶') : now.ended ? '■' : '❙❙';
    return { text: formatTimeLeft(now.left), ending: now.playing && !loops && now.left <= 10, state: mark };
  });
  if (!text) return null;
  return (
    <span
      className={clsx('figures px-1.5 leading-tight', ending ? 'bg-caution font-semibold text-deep' : 'bg-deep/80 text-text', className)}
    >
      <span aria-hidden>{state} </span>
      <span aria-label={`time left ${text}`}>{text}</span>
    </span>
  );
}

/** The as-run log: what was on air, from when to when. */
import { useQuery } from '@tanstack/react-query';
import { asRunCsv } from '#core/output/as-run';
import { formatDuration } from '#core/time/duration';
import { formatTimecode } from '#core/time/timecode';
import { useLive, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { saveFile } from '../parts/save-file';

const SHOWN = 40;

const COLUMNS = [
  ['from', 'Timecode of the show at which it came on air'],
  ['for', 'How long it was there; in red what still is'],
  ['where', 'The picture itself, or the lane over it'],
  ['what', 'Source, layout or entry'],
  ['how', 'Cut, or the transition that brought it'],
  ['who', 'Whose pass it was done with; empty for the window of the show'],
] as const;

/** What was on air, from when to when; the newest first. */
export function AsRun() {
  const client = useShowClient();
  const { show, frame } = useLive(({ desk, frame }) => ({ show: desk.show, frame: Math.floor(frame / 25) * 25 }));
  const log = useQuery({
    queryKey: ['as-run', show.id],
    queryFn: async () => (await client.files.asRun()).reverse(),
    refetchInterval: 1000,
  });
  const lines = log.data ?? [];
  const seconds = (frames: number) => (frames * show.rate.den) / show.rate.num;
  const save = () => saveFile(new Blob([asRunCsv([...lines].reverse(), show.rate)], { type: 'text/csv' }), `${show.name} as run.csv`);
  return (
    <section aria-label="As-run log">
      <div className="flex items-center justify-between">
        <h2 className="text-lg font-semibold">As run</h2>
        <Button onClick={save} unusable={lines.length === 0 ? 'Nothing has been on air yet.' : null}>
          Save as CSV
        </Button>
      </div>
      <table className="mt-1 w-full text-left text-[13px]">
        <thead className="text-muted">
          <tr>
            {COLUMNS.map(([name, title]) => (
              <th key={name} className="font-normal" title={title}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.slice(0, SHOWN).map((line) => (
            <tr key={line.id} className={line.endFrame === null ? 'text-air' : ''}>
              <td className="figures pr-3">{formatTimecode(line.startFrame, show.rate)}</td>
              <td className="figures pr-3">
                {formatDuration(seconds((line.endFrame ?? Math.max(frame, line.startFrame)) - line.startFrame))}
              </td>
              <td className="pr-3">{line.place}</td>
              <td className="pr-3">{line.what}</td>
              <td className="pr-3">{line.how}</td>
              <td>{line.who}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {lines.length > SHOWN && <p className="text-xs text-muted">{lines.length - SHOWN} earlier lines are in the CSV.</p>}
    </section>
  );
}

/** The list of recordings in this browser. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Download, Play, Trash2, TriangleAlert } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { say } from '../client/say';
import { causeOf } from '#core/schema/cause';
import { formatBytes, formatDuration } from '#core/time/duration';
import { type RecordingRow } from '#engine/storage/db';
import { useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { Dialog } from '../parts/dialog';
import { HoldButton } from '../parts/hold-button';
import { useRoving } from '../parts/roving';
import { saveFile } from '../parts/save-file';

const gone = () => void say.trouble('The file of this recording is no longer in this browser.');

function Player({ row, onClose }: { row: RecordingRow; onClose: () => void }) {
  const files = useShowClient().files.recordings;
  // A new name does not begin it anew.
  const played = useRef(row);
  const [url, setUrl] = useState<string | null>(null);
  useEffect(() => {
    let made: string | null = null;
    files.file(played.current).then((file) => {
      made = URL.createObjectURL(file);
      setUrl(made);
    }, gone);
    return () => {
      if (made) URL.revokeObjectURL(made);
    };
  }, [files]);
  return (
    <Dialog open onClose={onClose} title={row.name} wide>
      {url && <video src={url} controls autoPlay className="w-full bg-black" aria-label={row.name} />}
    </Dialog>
  );
}

function Row({ row, refresh, onPlay }: { row: RecordingRow; refresh: () => void; onPlay: () => void }) {
  const files = useShowClient().files.recordings;
  const [name, setName] = useState(row.name);
  const keep = () => {
    const clean = name.trim();
    if (clean === '' || clean === row.name) setName(row.name);
    else void files.rename(row.id, clean).then(refresh);
  };
  const running = row.state === 'recording';
  const save = () => void files.file(row).then((file) => saveFile(file, file.name), gone);
  const remove = () => void files.remove(row).then(refresh, (error: unknown) => say.trouble(causeOf(error)));
  return (
    <li data-recording={row.id} className="flex items-center gap-2 border-b border-line py-1.5">
      <div className="min-w-0 flex-1">
        <input
          data-role="name"
          aria-label="Name of the recording"
          className="w-full border-transparent! bg-transparent! px-1! font-semibold"
          value={name}
          maxLength={160}
          onChange={(e) => setName(e.target.value)}
          onBlur={keep}
          onKeyDown={(e) => {
            if (e.key === 'Enter') keep();
            if (e.key === 'Escape') setName(row.name);
          }}
        />
        <p className="figures px-1 text-xs text-muted">
          {formatDuration(row.seconds)} · {formatBytes(row.bytes)} · {row.extension.toUpperCase()}
          {running && <span className="text-air"> · being recorded</span>}
          {row.state === 'cut' && (
            <span className="text-caution">
              {' '}
              · <TriangleAlert size={13} className="inline" /> cut off
            </span>
          )}
          {row.note && row.state === 'done' && <span className="text-caution"> · {row.note}</span>}
        </p>
      </div>
      <Button
        look="quiet"
        aria-label={`Play ${row.name}`}
        title="Play"
        keyFor="output.play"
        data-role="play"
        data-first=""
        unusable={running ? 'Still being recorded.' : null}
        onClick={onPlay}
      >
        <Play size={16} />
      </Button>
      <Button
        look="quiet"
        aria-label={`Save ${row.name} to a file`}
        title="Save to a file"
        keyFor="output.save"
        data-role="save"
        unusable={running ? 'Still being recorded.' : null}
        onClick={save}
      >
        <Download size={16} />
      </Button>
      <HoldButton
        look="quiet"
        aria-label={`Delete ${row.name}`}
        title="Hold to delete for good"
        unusable={running ? 'Still being recorded.' : null}
        onHeld={remove}
      >
        <Trash2 size={16} />
      </HoldButton>
    </li>
  );
}

/** Every recording in this browser. */
export function Recordings() {
  const files = useShowClient().files.recordings;
  const queries = useQueryClient();
  const [playingId, setPlaying] = useState<string | null>(null);
  const recordingId = useShow(({ desk: { air } }) => air.recording?.id ?? null);
  const list = useQuery({ queryKey: ['recordings', recordingId], queryFn: () => files.list(), refetchInterval: 2000 });
  const box = useRoving<HTMLUListElement>();
  const playing = list.data?.find((r) => r.id === playingId);
  const refresh = () => void queries.invalidateQueries({ queryKey: ['recordings'] });
  return (
    <section aria-label="Recordings">
      <h2 className="text-lg font-semibold">Recordings</h2>
      {list.data?.length === 0 && (
        <p className="text-muted">Nothing recorded yet. Start recording on the left, or by its key from any room.</p>
      )}
      <ul ref={box}>
        {list.data?.map((row) => (
          <Row key={row.id} row={row} refresh={refresh} onPlay={() => setPlaying(row.id)} />
        ))}
      </ul>
      {playing && <Player key={playing.id} row={playing} onClose={() => setPlaying(null)} />}
    </section>
  );
}

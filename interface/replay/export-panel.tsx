/** Files made of clips, reels and angles. */
import { FileUp, X } from 'lucide-react';
import { useState } from 'react';
import { say } from '../client/say';
import { useStore } from 'zustand';
import { clipsOf } from '#core/replay/document';
import { causeOf } from '#core/schema/cause';
import { formatTimeLeft } from '#core/time/duration';
import { type ExportTask } from '#engine/replay/export-messages';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { FileButton } from '../parts/file-button';
import { saveFile } from '../parts/save-file';
import {
  type Container,
  csvFile,
  edlFile,
  exportAngles,
  exportClips,
  jsonFile,
  otioFile,
  programmeEvents,
  readClipList,
  reelEvents,
} from './export-files';
import { useRoom } from './room-state';

const give = (file: File) => saveFile(file, file.name);

const STATES: Record<ExportTask['state'], string> = {
  waiting: 'waits',
  running: '',
  done: 'saved',
  failed: 'failed',
  cancelled: 'cancelled',
};

function Task({ task }: { task: ExportTask }) {
  const host = useShowClient();
  const spent = (Date.now() - task.startedAt) / 1000;
  const left = task.share > 0.02 ? `${formatTimeLeft((spent / task.share) * (1 - task.share))} left` : 'begins';
  const words =
    task.state === 'running'
      ? `${Math.round(task.share * 100)} % · ${left}`
      : `${STATES[task.state]}${task.message ? `: ${task.message}` : ''}${task.state === 'done' && task.copied ? ' · as recorded' : ''}`;
  return (
    <li className="relative flex items-center gap-2 border-b border-line px-2 py-1">
      <span
        aria-hidden
        className="absolute inset-y-0 left-0 bg-next/15"
        style={{ width: `${task.state === 'running' ? task.share * 100 : 0}%` }}
      />
      <span className="relative min-w-0 flex-1 truncate">{task.name}</span>
      <span className={`figures relative text-[13px] ${task.state === 'failed' ? 'text-air' : 'text-muted'}`}>{words}</span>
      {(task.state === 'running' || task.state === 'waiting') && (
        <Button look="quiet" className="relative px-1!" aria-label={`Cancel ${task.name}`} onClick={() => host.exports.cancel(task.id)}>
          <X size={14} />
        </Button>
      )}
    </li>
  );
}

/** Reads a list of clips into the chosen reel. */
function ReadIn() {
  const host = useShowClient();
  const send = useSend();
  const read = async (file: File) => {
    const { desk, frame } = host.state;
    try {
      const list = await readClipList(desk.show, file, frame);
      if (send('clip.import', { reel: desk.show.replay.reelId, list })) say.good(`${list.length} clips are in the reel.`);
    } catch (error) {
      say.trouble(causeOf(error), { duration: 9000 });
    }
  };
  return (
    <FileButton label="Clip list to read in" accept=".csv,.json" onFile={(file) => void read(file)}>
      <FileUp size={14} /> Read a clip list in
    </FileButton>
  );
}

/** Files, edit lists and clip lists of what is chosen, of the reel, or of the programme. */
export function ExportPanel() {
  const host = useShowClient();
  const chosen = useRoom((s) => s.chosen);
  const show = useShow(({ desk }) => desk.show);
  const tasks = useStore(host.exports.store, (s) => s.tasks);
  const [container, setContainer] = useState<Container>('mp4');
  const [whole, setWhole] = useState(false);
  const reel = clipsOf(show.replay, show.replay.reelId);
  const picked = show.replay.clips.filter((c) => chosen.includes(c.id));
  const clips = whole || picked.length === 0 ? reel : picked;
  const name = show.replay.reels.find((r) => r.id === show.replay.reelId)?.name ?? 'Reel';
  const title = `${show.name} ${name}`;
  const none = clips.length === 0 ? 'This reel is empty.' : null;
  const events = () => reelEvents(show, clips);
  const programme = async (make: typeof edlFile) => {
    const cuts = await programmeEvents(show, host.files, host.state.frame);
    if (cuts.length === 0) say.caution('Nothing has been on air yet.');
    else give(make(show, `${show.name} programme`, cuts));
  };
  return (
    <div className="flex flex-col gap-2 p-2">
      <div className="flex items-center gap-2">
        <span className="font-semibold text-straw">
          {clips === reel
            ? `${name}: ${reel.length} ${reel.length === 1 ? 'clip' : 'clips'}`
            : `${picked.length} chosen ${picked.length === 1 ? 'clip' : 'clips'}`}
        </span>
        {picked.length > 0 && (
          <Button className="ml-auto" pressed={whole} onClick={() => setWhole(!whole)}>
            Whole reel
          </Button>
        )}
      </div>
      <h3 className="border-t border-line pt-2 font-semibold">Files</h3>
      <div className="flex flex-wrap items-center gap-1">
        <select aria-label="Form of the files" value={container} onChange={(e) => setContainer(e.target.value as Container)}>
          <option value="mp4">MP4 · H.264</option>
          <option value="webm">WebM · VP8</option>
        </select>
        <Button unusable={none} onClick={() => void exportClips(host, title, clips, container, false, give)}>
          One file a clip
        </Button>
        <Button unusable={none} onClick={() => void exportClips(host, title, clips, container, true, give)}>
          Joined in one
        </Button>
      </div>
      <p className="text-[13px] text-muted">
        A clip at normal speed in one angle leaves as MP4 just as it was recorded. Everything else is drawn at its speed, with its
        dissolves.
      </p>
      <ul aria-label="Exports" className="border-t border-line">
        {[...tasks].reverse().map((task) => (
          <Task key={task.id} task={task} />
        ))}
      </ul>
      <h3 className="border-t border-line pt-2 font-semibold">Edit lists</h3>
      <div className="flex flex-wrap gap-1">
        <Button unusable={none} onClick={() => give(edlFile(show, title, events()))}>
          EDL (CMX 3600)
        </Button>
        <Button unusable={none} onClick={() => give(otioFile(show, title, events()))}>
          OpenTimelineIO
        </Button>
        <Button
          unusable={none}
          title="The recordings of the angles that these lists refer to"
          onClick={() => void exportAngles(host, events(), give)}
        >
          Angle recordings for them
        </Button>
      </div>
      <div className="flex flex-wrap gap-1">
        <Button title="What was on air, cut by cut, against the angles" onClick={() => void programme(edlFile)}>
          Programme as EDL
        </Button>
        <Button onClick={() => void programme(otioFile)}>Programme as OTIO</Button>
        <Button onClick={() => void programmeEvents(show, host.files, host.state.frame).then((cuts) => exportAngles(host, cuts, give))}>
          Angle recordings for it
        </Button>
      </div>
      <h3 className="border-t border-line pt-2 font-semibold">Clip lists</h3>
      <div className="flex flex-wrap gap-1">
        <Button unusable={none} onClick={() => give(csvFile(show, title, clips))}>
          CSV
        </Button>
        <Button unusable={none} onClick={() => give(jsonFile(show, title, clips))}>
          JSON
        </Button>
        <ReadIn />
      </div>
    </div>
  );
}

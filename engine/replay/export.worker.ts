/** Makes one file of clips or of an angle, on a thread of its own, while recording goes on. */
import { Mp4OutputFormat, Output, StreamTarget, type StreamTargetChunk, WebMOutputFormat } from 'mediabunny';
import { causeOf } from '#core/schema/cause';
import { frameToMicros } from '#core/time/rate';
import { openForWriting } from '../storage/opfs';
import { workerScope } from '../worker-scope';
import { canCopy, copySpan } from './export-copy';
import { type ExportJob, type FromExport, type ToExport } from './export-messages';
import { renderClips } from './export-render';
import { spansOf, writtenSegments } from './export-written';
import { Material } from './material';

const say = (message: FromExport) => workerScope.postMessage(message);

/** The single span that can be copied: one angle at normal speed, in a container that can trim. */
function copyable(job: ExportJob): { angleId: string; from: number; to: number } | null {
  if (job.kind === 'angle') return job;
  const [item] = job.items;
  return job.items.length === 1 && item && item.speed === 100 && job.container === 'mp4'
    ? { angleId: item.angleId, from: item.in, to: item.out }
    : null;
}

async function run({ showId, rate, fileName, job, sounds, recorded }: ToExport): Promise<void> {
  const material = new Material();
  material.take({ type: 'segments', segments: await writtenSegments(showId, spansOf(job, sounds, rate), recorded) });
  const handle = await openForWriting('exports', fileName);
  const target = new StreamTarget(
    new WritableStream<StreamTargetChunk>({ write: ({ data, position }) => void handle.write(data, { at: position }) }),
    { chunked: true },
  );
  const webm = job.kind === 'clips' && job.container === 'webm';
  const output = new Output({ format: webm ? new WebMOutputFormat() : new Mp4OutputFormat({ fastStart: false }), target });
  let last = 0;
  const progress = (share: number) => {
    if (performance.now() - last < 120) return;
    last = performance.now();
    say({ type: 'progress', done: Math.min(1, Math.max(0, share)), total: 1 });
  };
  const span = copyable(job);
  const copied = span !== null && canCopy(material, span.angleId, frameToMicros(span.from, rate), frameToMicros(span.to, rate));
  let frames: number;
  if (copied && span) frames = await copySpan(material, output, span.angleId, sounds[span.angleId], span, rate, progress);
  else if (job.kind === 'clips') frames = await renderClips(material, output, job, sounds, rate, progress);
  else throw new Error('this angle was recorded in more than one size or codec: export its clips instead');
  await output.finalize();
  handle.flush();
  handle.close();
  say({ type: 'done', seconds: (frames * rate.den) / rate.num, copied, frames });
}

workerScope.onmessage = ({ data }: MessageEvent<ToExport>) => {
  run(data).catch((error: unknown) => {
    const full = error instanceof DOMException && error.name === 'QuotaExceededError';
    say({ type: 'failed', message: full ? 'the disk is full' : causeOf(error) });
  });
};

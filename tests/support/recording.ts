/** What the browser tests do with recordings of the programme. */
import { type Page } from 'puppeteer-core';
import { pick, send, until, passes } from './desk';
import { stored } from './stored';

/** Of the pictures that a machine at rest records, at least so many are waited for. */
const SHARE = 0.3;
const FRAME_SECONDS = 0.04;

interface Row {
  id: string;
  state: string;
  seconds: number;
  extension: string;
  note: string;
  name: string;
}

/** Ends what an earlier try of a test has left running. */
export async function endLeftover(page: Page): Promise<void> {
  if (!(await pick(page, (s) => s.desk.air.recording !== null))) return;
  await send(page, 'output.stopRecording');
  await until(() => pick(page, (s) => s.encoder.recording === null), 'the earlier recording to end');
}

/** Starts a recording of the programme; its identity. */
export async function startRecording(page: Page): Promise<string> {
  await endLeftover(page);
  const started = await send(page, 'output.startRecording');
  if (!started.ok) throw new Error(`no recording: ${JSON.stringify(started)}`);
  return String(started.result.id);
}

/** Lets the recording run for `ms`, and on until it has `pictures` more: a machine that gives frames up needs longer. */
export async function records(page: Page, ms: number, pictures = Math.ceil((ms / 1000 / FRAME_SECONDS) * SHARE)): Promise<void> {
  const count = () => pick(page, (s) => s.encoder.recording?.pictures ?? 0);
  const before = await count();
  await passes(page, Math.round(ms / 1000 / FRAME_SECONDS));
  await until(async () => (await count()) >= before + pictures, `${pictures} more pictures in the recording`);
}

/** Stops the recording and waits for its file; its bytes as base64. */
export async function finishRecording(page: Page, id: string): Promise<string> {
  await send(page, 'output.stopRecording');
  await until(() => pick(page, (s) => s.encoder.recording === null), 'the recording to end');
  await until(() => recordingRow(page, id).then((row) => row?.state === 'done'), 'the recording to be listed as done');
  return recordingBytes(page, id);
}

/** The row of a recording in the page's database. */
export const recordingRow = (page: Page, id: string): Promise<Row | undefined> => stored<Row>(page, 'recordings', id);

/** The bytes of a recording's file, base64. */
export const recordingBytes = (page: Page, id: string): Promise<string> =>
  page.evaluate(async (key) => {
    const root = await navigator.storage.getDirectory();
    const folder = await root.getDirectoryHandle('recordings');
    for (const extension of ['mp4', 'webm']) {
      const handle = await folder.getFileHandle(`${key}.${extension}`).catch(() => null);
      if (!handle) continue;
      const bytes = new Uint8Array(await (await handle.getFile()).arrayBuffer());
      let text = '';
      for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192));
      return btoa(text);
    }
    throw new Error(`no file of recording ${key}`);
  }, id);

/** Seconds of pictures that the mixer has given up so far. */
export const gaveUp = async (page: Page): Promise<number> => (await pick(page, (s) => s.mixer.dropped)) * FRAME_SECONDS;

/** How far the steps between pictures are from whole frames at most, seconds; and how many frames were left out. */
export function steps(pictures: readonly { time: number }[]): { off: number; leftOut: number } {
  const frames = pictures.slice(1).map((p, i) => (p.time - (pictures[i]?.time ?? 0)) / FRAME_SECONDS);
  return {
    off: Math.max(0, ...frames.map((f) => Math.abs(f - Math.max(1, Math.round(f))) * FRAME_SECONDS)),
    leftOut: frames.reduce((sum, f) => sum + Math.max(0, Math.round(f) - 1), 0),
  };
}

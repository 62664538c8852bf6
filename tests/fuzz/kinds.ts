/** What is fuzzed: each kind gives damaged inputs to one door of the app, and says what may not happen there. */
import { mkdtemp, rm } from 'node:fs/promises';
import { request } from 'node:http';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strFromU8, strToU8, zipSync } from 'fflate';
import { imageSize } from 'image-size';
import Papa from 'papaparse';
import { WebSocket } from 'ws';
import { execute } from '#core/desk/execute';
import { COMMANDS } from '#core/desk/registry';
import { HOST_PROTOCOL } from '#core/panels/messages';
import { planFrame } from '#core/picture/plan';
import { clipJson, ClipListError, clipRows, clipsOfJson, clipsOfRows, type ListContext } from '#core/replay/clip-lists';
import { type Clip } from '#core/replay/document';
import { fieldsOf } from '#core/schema/fields';
import { isTooDeep } from '#core/schema/depth';
import { type Desk } from '#core/desk/air';
import { readShow } from '#core/desk/migrate';
import { ShowError, showProblems } from '#core/desk/validate';
import { exportRouting } from '#core/sound/routing-file';
import { readPackage } from '#engine/storage/show-package';
import { readInit, readSegment } from '#server/output/isobmff';
import { type Running, serve } from '#server/serve';
import { makeOpusTrack } from '../support/cmaf';
import { type Dice } from '../support/dice';
import { freePort } from '../support/free-port';
import { replayDesk } from '../support/sample-show';
import { damageBytes, damageData, hostile, pick } from './mutate';

export interface FuzzKind {
  name: string;
  /** Gives one damaged input to the door; throws when something happened that may not. */
  once: (dice: Dice) => void | Promise<void>;
  close?: () => Promise<void>;
}

function check(holds: boolean, what: string): void {
  if (!holds) throw new Error(what);
}

/** Runs `work`; errors of `allowed` are refusals, and must be in words. */
function refusedBy(allowed: new (...args: never[]) => Error, work: () => void): void {
  try {
    work();
  } catch (error) {
    if (!(error instanceof allowed)) throw error;
    check(/^[A-Z“"].{10,}[.!]$/s.test(error.message), `A refusal that is no sentence: ${error.message.slice(0, 200)}`);
    check(error.message.length < 2000, 'A refusal that nobody can read to its end.');
  }
}

/** Old forms of a show, as far as the present one can be made to look like them. */
function oldForms(show: object): object[] {
  const versions = [0, 1, 2, 3].map((version) => ({ ...show, version }));
  return [
    show,
    show,
    ...versions,
    {
      format: 'bivoca-show',
      version: 1,
      id: 'x',
      name: 'Old',
      raster: { width: 64, height: 36 },
      rate: { num: 25, den: 1 },
      sources: [],
      lanes: [{ id: 'l', fadeFrames: 5 }],
      transition: { direction: 'up' },
    },
  ];
}

function shows(): FuzzKind {
  const forms = oldForms(replayDesk().show);
  return {
    name: 'shows',
    once: (dice) =>
      refusedBy(ShowError, () => {
        const raw = damageData(dice, pick(dice, forms));
        if (isTooDeep(raw)) return;
        const show = readShow(raw);
        check(showProblems(show).length === 0, 'A faulty show was taken.');
        planFrame(show, { ...replayDesk().air, onAirId: show.layouts[0]?.id ?? show.sources[0]?.id ?? null }, 10);
      }),
  };
}

function packages(): FuzzKind {
  const { show } = replayDesk();
  const assets = { asset: strToU8('a clip, a clip, a clip'), bug: new Uint8Array(3000).map((_, i) => i * 7) };
  const text = JSON.stringify({
    show,
    assets: [
      { id: 'asset', name: 'clip.mp4', type: 'video/mp4' },
      { id: 'bug', name: 'bug.png', type: 'image/png' },
    ],
  });
  const files = zipSync({ 'show.json': strToU8(text), 'assets/asset': [assets.asset, { level: 0 }], 'assets/bug': assets.bug });
  const whole = JSON.stringify(show);
  return {
    name: 'packages',
    once: async (dice) => {
      const found = await readPackage(new Blob([damageBytes(dice, files) as Uint8Array<ArrayBuffer>])).catch((error: unknown) => {
        refusedBy(ShowError, () => {
          throw error;
        });
        return null;
      });
      if (!found) return;
      check(JSON.stringify(found.show) === whole, 'A changed show was taken.');
      for (const [id, { data }] of found.assets) {
        const bytes = new Uint8Array(await data.arrayBuffer());
        check(strFromU8(bytes, true) === strFromU8(assets[id as keyof typeof assets], true), 'A changed file was taken.');
      }
    },
  };
}

/** JSON of any depth: what is nested too deep to be written is written by hand. */
const textOf = (raw: unknown): string =>
  isTooDeep(raw)
    ? `{"format":"bivoca-clips","kind":"state","version":1,"clips":${'['.repeat(9000)}${']'.repeat(9000)}}`
    : JSON.stringify(raw ?? null);

function lists(): FuzzKind {
  const desk = replayDesk();
  const context: ListContext = {
    rate: desk.show.rate,
    angles: desk.show.replay.angles,
    angleName: (id) => `Camera ${id}`,
    reelName: () => 'Reel',
  };
  const clip = (i: number): Clip => ({
    id: `c${i}`,
    number: i,
    reelId: 'reel-1',
    name: `=Clip ${i}`,
    in: i * 10,
    out: i * 10 + 5,
    angleIds: ['a', 'b'],
    speed: 50,
    rating: 2,
    tags: 'one',
    note: 'a\nb',
    colour: '#5aa9c9',
  });
  const clips = [1, 2, 3].map(clip);
  const json = JSON.parse(clipJson(clips, context)) as unknown;
  const csv = strToU8(Papa.unparse(clipRows(clips, context)));
  const routing = exportRouting(desk.show);
  const sound = (list: { name: string; in: number; out: number; angleIds: string[]; speed: number }[]) =>
    check(
      list.every(
        (c) =>
          Number.isSafeInteger(c.in) &&
          c.out > c.in &&
          c.in >= 0 &&
          c.speed >= 1 &&
          c.speed <= 200 &&
          c.name.length <= 120 &&
          c.angleIds.every((a) => a === 'a' || a === 'b'),
      ),
      'A faulty clip was taken.',
    );
  let ids = 0;
  return {
    name: 'lists',
    once: (dice) => {
      const kind = dice();
      if (kind < 0.4) refusedBy(ClipListError, () => sound(clipsOfJson(textOf(damageData(dice, json)), context)));
      else if (kind < 0.7)
        refusedBy(ClipListError, () =>
          sound(clipsOfRows(Papa.parse<string[]>(new TextDecoder().decode(damageBytes(dice, csv)).slice(0, 50_000)).data, context, 5000)),
        );
      else {
        ids += 1;
        const outcome = execute(
          desk,
          { type: 'sound.importRouting', args: { routing: damageData(dice, routing), devices: [], anyway: true } },
          { frame: 0, newId: () => `n${ids}-${Math.floor(dice() * 1e9)}` },
        );
        if (!outcome.ok) return check(outcome.error.message.length < 2000, 'A refusal that nobody can read to its end.');
        const [problem] = showProblems(JSON.parse(JSON.stringify(outcome.desk.show)));
        check(problem === undefined, `A faulty routing was taken: ${JSON.stringify(problem)}`);
      }
    },
  };
}

/** The smallest pictures there are, by their heads. */
const STILLS = [
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==',
  'UklGRiIAAABXRUJQVlA4IBYAAAAwAQCdASoBAAEADsD+JaQAA3AAAAAA',
  '/9j/4AAQSkZJRgABAQEASABIAAD/2wBDAP//////////////////////////////////////////////////////////////////////////////////////wgALCAABAAEBAREA/8QAFBABAAAAAAAAAAAAAAAAAAAAAP/aAAgBAQABPxA=',
].map((text) => new Uint8Array(Buffer.from(text, 'base64')));

const stills = (): FuzzKind => ({
  name: 'stills',
  once: (dice) => {
    try {
      const { width, height } = imageSize(damageBytes(dice, pick(dice, STILLS)));
      check(Number.isFinite(width) && Number.isFinite(height), 'A size that is no number.');
    } catch (error) {
      check(error instanceof Error, 'Not an error.');
    }
  },
});

async function segments(): Promise<FuzzKind> {
  const { init, segments: media } = await makeOpusTrack(4, 1);
  return {
    name: 'segments',
    once: (dice) => {
      const bytes = damageBytes(dice, pick(dice, [init, ...media]));
      for (const read of [readInit, readSegment]) {
        try {
          const found = read(bytes) as { codec?: string };
          check(found.codec === undefined || /^[\w.]+$/.test(found.codec), 'A codec name that breaks a playlist.');
        } catch (error) {
          check(error instanceof Error && !(error instanceof TypeError), `Not a refusal: ${String(error)}`);
        }
      }
    },
  };
}

function commands(): FuzzKind {
  const start = replayDesk();
  let desk: Desk = start;
  let count = 0;
  const ids = ['a', 'b', 'c', 'clip', 'bug', 'card', 'lane-1', 'programme', 'reel-1'];
  const plausible = (type: string, dice: Dice): unknown => {
    if (type === 'id') return pick(dice, ids);
    if (type.startsWith('list of ids')) return [pick(dice, ids)];
    if (type.startsWith('number') || type.startsWith('whole')) return pick(dice, [0, 1, 2, 50]);
    if (type.startsWith('text')) return 'text';
    if (type.startsWith('true')) return dice() < 0.5;
    return hostile(dice);
  };
  return {
    name: 'commands',
    once: (dice) => {
      const spec = pick(dice, COMMANDS);
      const args = Object.fromEntries(
        fieldsOf(spec.args).map(({ name, type }) => [name, dice() < 0.25 ? hostile(dice) : plausible(type, dice)]),
      );
      const command =
        dice() < 0.05 ? hostile(dice) : { type: dice() < 0.03 ? hostile(dice) : spec.type, args: dice() < 0.05 ? hostile(dice) : args };
      count += 1;
      const outcome = execute(desk, (command ?? {}) as never, { frame: count, newId: () => `f${count}-${Math.floor(dice() * 1e9)}` });
      if (!outcome.ok) return check(outcome.error.message.length < 1000, 'A refusal that nobody can read to its end.');
      const problems = showProblems(JSON.parse(JSON.stringify(outcome.desk.show)));
      check(problems.length === 0, `${spec.type} left a faulty show: ${JSON.stringify(problems[0])}`);
      planFrame(outcome.desk.show, outcome.desk.air, count);
      desk = count % 200 === 0 ? start : outcome.desk;
    },
  };
}

/** A server of its own, and how to see that it still answers. */
async function ownServer(): Promise<{ port: number; answers: () => Promise<boolean>; close: () => Promise<void> }> {
  const port = await freePort();
  const root = await mkdtemp(join(tmpdir(), 'bivoca-fuzz-'));
  const running: Running = await serve({ port, token: null, dist: root, ingestRoot: join(root, 'ingest'), streamKey: 'secret' });
  const answers = () =>
    fetch(`http://127.0.0.1:${port}/api/shows`).then(
      (r) => r.ok,
      () => false,
    );
  return {
    port,
    answers,
    close: async () => {
      await running.close();
      await rm(root, { recursive: true, force: true });
    },
  };
}

async function requests(): Promise<FuzzKind> {
  const { port, answers, close } = await ownServer();
  const lines = (dice: Dice) => {
    const path = pick(dice, [
      '/',
      '//',
      '/api/state',
      '/api/shows?show=',
      '/api/commands',
      '/ingest/pier/video/000001.m4s',
      '/live/x/index.m3u8',
      '/watch',
      '/%00',
      '/api/host',
      '/api/events?show[]=1',
    ]);
    const body = dice() < 0.4 ? textOf(hostile(dice)).slice(0, 20_000) : '';
    const upgrade =
      dice() < 0.3
        ? 'Connection: Upgrade\r\nUpgrade: websocket\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: dGhlIHNhbXBsZSBub25jZQ==\r\n'
        : '';
    const key = dice() < 0.3 ? 'Authorization: Bearer secret\r\n' : '';
    return `${pick(dice, ['GET', 'POST', 'PUT', 'OPTIONS', 'BREW'])} ${path} HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nContent-Type: application/json\r\n${key}${upgrade}Content-Length: ${Buffer.byteLength(body)}\r\n\r\n${body}`;
  };
  let count = 0;
  return {
    name: 'requests',
    close,
    once: async (dice) => {
      const bytes = dice() < 0.5 ? damageBytes(dice, strToU8(lines(dice))).slice(0, 30_000) : strToU8(lines(dice));
      await new Promise<void>((resolve) => {
        const socket = connect(port, '127.0.0.1');
        socket.on('error', () => undefined).on('close', () => resolve());
        socket.once('data', (data) => {
          if (/^HTTP\/1\.1 500/.test(String(data))) socket.emit('bad');
          socket.destroy();
        });
        socket.write(bytes, () => (dice() < 0.3 ? socket.resetAndDestroy() : setTimeout(() => socket.destroy(), 20)));
      });
      count += 1;
      if (count % 25 === 0) check(await answers(), 'The server does not answer any more.');
    },
  };
}

async function sockets(): Promise<FuzzKind> {
  const { port, answers, close } = await ownServer();
  const key = await new Promise<string>((resolve, reject) => {
    request({ host: '127.0.0.1', port, path: '/api/host-key', headers: { 'sec-fetch-site': 'same-origin' } }, (res) => {
      let text = '';
      res.on('data', (d) => (text += String(d))).on('end', () => resolve((JSON.parse(text) as { key: string }).key));
    })
      .on('error', reject)
      .end();
  });
  const messages = (dice: Dice): unknown =>
    pick<() => unknown>(dice, [
      () => ({ kind: 'hello', show: { id: pick(dice, ['a', 'b']), name: 'Show' } }),
      () => ({ kind: 'state', revision: 1, show: { name: 'x' }, air: {}, frame: 1, status: {} }),
      () => ({ kind: 'patches', revision: 2, frame: 2, patches: [{ op: 'replace', path: ['air', 'x'], value: hostile(dice) }] }),
      () => ({ kind: 'patches', revision: 2, frame: 2, patches: hostile(dice) }),
      () => ({ kind: 'answer', id: hostile(dice), outcome: hostile(dice) }),
      () => ({ kind: 'part', index: hostile(dice), count: 3, text: 'x' }),
      () => hostile(dice),
    ])();
  let count = 0;
  return {
    name: 'sockets',
    close,
    once: async (dice) => {
      const isHost = dice() < 0.6;
      const socket = isHost
        ? new WebSocket(`ws://127.0.0.1:${port}/api/host`, [HOST_PROTOCOL, key])
        : new WebSocket(`ws://127.0.0.1:${port}/api/events`);
      await new Promise<void>((resolve) => {
        socket.on('error', () => undefined).on('close', () => resolve());
        socket.on('open', () => {
          for (let i = 0; i < 1 + dice() * 5; i += 1)
            socket.send(dice() < 0.1 ? damageBytes(dice, strToU8('{"kind":"hello"}')) : textOf(messages(dice)));
          setTimeout(() => (dice() < 0.3 ? socket.terminate() : socket.close()), 5);
        });
      });
      count += 1;
      if (count % 25 === 0) check(await answers(), 'The server does not answer any more.');
    },
  };
}

/** Every kind, ready to run; `media` is run by itself, in a thread that can be ended. */
export const KINDS: Record<string, () => FuzzKind | Promise<FuzzKind>> = {
  shows,
  packages,
  lists,
  stills,
  segments,
  commands,
  requests,
  sockets,
};

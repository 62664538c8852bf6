/**
 * Files that panels give to a show: held here only until the window that runs the show has taken them. `POST` brings one with the secret of a
 * pass, `GET /:id` gives it to that window, and to nobody else.
 */
import { randomBytes } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, rm, statfs } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import express, { type Request, type Response, type Router } from 'express';
import { bearerOf, sameSecret, tooMany } from '../guard';
import { type Throttle } from '../throttle';
import { type Panels } from './panels';

/** Bytes of one file at most. */
export const MOST_UPLOAD = 512_000_000;
/** Files that come in at the same time. */
const AT_ONCE = 4;
/** Bytes that stay free on the disk. */
const KEPT_FREE = 500_000_000;

class TooLarge extends Error {}

/** Lets so many bytes through, and fails with the next. */
function atMost(most: number): Transform {
  let bytes = 0;
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      bytes += chunk.length;
      if (bytes > most) done(new TooLarge());
      else done(null, chunk);
    },
  });
}

export function uploads(
  panels: Panels,
  { folder, hostKey, guesses, most = MOST_UPLOAD }: { folder: string; hostKey: string; guesses: Throttle; most?: number },
): Router {
  const router = express.Router();
  let running = 0;
  const refuse = (res: Response, status: number, code: string, message: string) => void res.status(status).json({ code, message });

  router.post('/', async (req: Request, res: Response) => {
    res.set('Cache-Control', 'no-store');
    // What is not wanted need not be sent to its end.
    res.set('Connection', 'close');
    const slow = tooMany(guesses, req);
    if (slow) return refuse(res, slow.status, 'refused', slow.message);
    const show = typeof req.query.show === 'string' ? req.query.show : null;
    const name = typeof req.query.name === 'string' && req.query.name !== '' ? req.query.name.slice(0, 200) : 'file';
    const found = panels.passFor(show, bearerOf(req) ?? '');
    if (found === 'away') return refuse(res, 503, 'no-host', 'No window runs the show now: nothing was sent.');
    if (found === 'unknown') {
      guesses.wrong(req.socket.remoteAddress ?? 'unknown');
      return refuse(res, 401, 'refused', 'This pass is not known here, has ended or was withdrawn.');
    }
    if (found === 'no-right')
      return refuse(res, 403, 'no-right', 'A file needs a pass for Desk, Graphics or Layouts. Whoever runs the show can give it.');
    const said = Number(req.headers['content-length'] ?? 0);
    const tooLarge = `A file of at most ${Math.round(most / 1e6)} MB is taken. Larger ones are added at the window that runs the show.`;
    if (said > most) return refuse(res, 413, 'too-large', tooLarge);
    if (running >= AT_ONCE) return refuse(res, 503, 'busy', 'Other files come in just now. Try again in a moment.');
    running += 1;
    const id = randomBytes(16).toString('hex');
    const path = join(folder, id);
    try {
      await mkdir(folder, { recursive: true });
      const { bavail, bsize } = await statfs(folder);
      if (bavail * bsize < KEPT_FREE + said)
        return refuse(
          res,
          507,
          'no-space',
          'The disk of the server is nearly full: nothing was kept. Make room there, or add the file at the host.',
        );
      await pipeline(req, atMost(most), createWriteStream(path, { mode: 0o600 }));
      const [type, use] = [req.query.type, req.query.use].map((q) => (typeof q === 'string' ? q.slice(0, 100) : ''));
      const answer = await found.line.ask({ what: 'take-file', id, name, type: type ?? '', use: use ?? '' });
      if (answer.ok) return void res.json(answer.value);
      return refuse(res, 422, 'refused', answer.message);
    } catch (error) {
      if (error instanceof TooLarge) return refuse(res, 413, 'too-large', tooLarge);
      // Whoever sent it has gone in the middle: there is nobody to tell.
      if (!res.headersSent && !req.destroyed) return refuse(res, 500, 'failed', 'The file could not be taken. The show is not affected.');
      return undefined;
    } finally {
      running -= 1;
      await rm(path, { force: true });
    }
  });

  router.get('/:id', (req: Request, res: Response) => {
    const { id } = req.params;
    const key = bearerOf(req);
    if (key === null || !sameSecret(key, hostKey)) return refuse(res, 403, 'refused', 'Only the page that runs a show may take it.');
    if (typeof id !== 'string' || !/^[0-9a-f]{32}$/.test(id)) return refuse(res, 404, 'not-found', 'There is no such file.');
    res.set({ 'Content-Type': 'application/octet-stream', 'Cache-Control': 'no-store' });
    const stream = createReadStream(join(folder, id));
    stream.on('error', () => (res.headersSent ? res.destroy() : refuse(res, 404, 'not-found', 'There is no such file.')));
    stream.pipe(res);
    return undefined;
  });
  return router;
}

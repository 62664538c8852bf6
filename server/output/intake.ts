/** The intake's door: key, names and room are checked before a single byte of a body is read. */
import express, { type Request, type RequestHandler, type Response, type Router } from 'express';
import { addressOf, bearerOf, sameSecret, tooMany } from '../guard';
import { type Throttle } from '../throttle';
import { type Ingest, SEGMENT_LIMIT, streamFile } from './ingest';

/** Bodies that may come in at the same time, so that their bytes are bounded. */
const AT_ONCE = 4;

/** Takes segments by PUT. */
export function intake(ingest: Ingest, key: string, guesses: Throttle): Router {
  let reading = 0;

  const checked: RequestHandler = (req, res, next) => {
    const slow = tooMany(guesses, req);
    if (slow) return refuse(res, slow.status, 'slow-down', slow.message, slow.retryAfter);
    const given = bearerOf(req);
    if (given === null || !sameSecret(given, key)) {
      if (given !== null) guesses.wrong(addressOf(req));
      return refuse(res, 401, 'bad-key', 'The stream key is not right.');
    }
    guesses.right(addressOf(req));
    const { stream = '', track = '', file = '' } = req.params as Record<string, string>;
    ingest.welcome(streamFile(stream, track, file));
    if (Number(req.headers['content-length'] ?? 0) > SEGMENT_LIMIT)
      return refuse(res, 413, 'too-large', `A segment is at most ${SEGMENT_LIMIT / 1_000_000} MB large.`);
    if (reading >= AT_ONCE) return refuse(res, 503, 'busy', 'Too many segments come in at the same time. Send them one after another.', 1);
    reading += 1;
    res.once('close', () => (reading -= 1));
    return next();
  };

  const router = express.Router();
  router.put(
    '/:stream/:track/:file',
    checked,
    express.raw({ type: () => true, limit: SEGMENT_LIMIT, inflate: false }),
    async (req: Request, res: Response) => {
      const { stream = '', track = '', file = '' } = req.params as Record<string, string>;
      await ingest.put(streamFile(stream, track, file), Buffer.isBuffer(req.body) ? req.body : Buffer.alloc(0));
      res.status(204).end();
    },
  );
  return router;
}

function refuse(res: Response, status: number, code: string, message: string, retryAfter?: number): void {
  // What the sender still sends is not read: the line is closed after the answer.
  res.set('Connection', 'close');
  if (retryAfter !== undefined) res.set('Retry-After', String(retryAfter));
  res.status(status).json({ code, message });
}

/** The door to addresses: only for the page that runs a show, with the secret that pages of this server get. */
import express, { type Request, type Response, type Router } from 'express';
import { between } from '../bounds';
import { bearerOf, sameSecret } from '../guard';
import { AddressError, askAddress, type Asked } from './ask';

/** Addresses that are asked at the same time. */
const AT_ONCE = 16;

/** What is asked, in bounds; null when no address is named. */
function askedOf(body: unknown): Asked | null {
  const { address, timeoutMs, most, allowed, tag } = (body ?? {}) as Record<string, unknown>;
  if (typeof address !== 'string' || address === '' || address.length > 2000) return null;
  return {
    address,
    timeoutMs: between(timeoutMs, 500, 60_000),
    most: between(most, 1000, 50e6),
    allowed: Array.isArray(allowed) ? allowed.filter((h): h is string => typeof h === 'string').slice(0, 20) : [],
    tag: typeof tag === 'string' && /^(?:W\/)?"[^"\r\n]*"$/u.test(tag) ? tag : null,
  };
}

/** `POST /`: asks an address that a show names. `port` is this server's. */
export function addresses(hostKey: string, port: number): Router {
  const router = express.Router();
  const base = new URL(`http://127.0.0.1:${port}`);
  let asking = 0;
  router.post('/', express.json({ limit: '20kb' }), async (req: Request, res: Response) => {
    res.set('Cache-Control', 'no-store');
    const key = bearerOf(req);
    if (key === null || !sameSecret(key, hostKey))
      return void res.status(403).json({ code: 'refused', message: 'Only the page that runs a show may ask for its addresses.' });
    const asked = askedOf(req.body);
    if (!asked) return void res.status(400).json({ code: 'bad-body', message: 'Send {"address": …}.' });
    if (asking >= AT_ONCE)
      return void res
        .status(503)
        .json({ code: 'busy', message: 'Too many addresses are asked at the same time. It is asked again later.' });
    asking += 1;
    try {
      const answer = await askAddress(asked, base);
      if (answer.unchanged) return void res.status(304).end();
      // As bytes, and nothing that a browser would show or run.
      res.set({
        'Content-Type': 'application/octet-stream',
        'X-Content-Tag': answer.tag ?? '',
        'X-Content-Kind': answer.type.slice(0, 100),
      });
      return void res.send(answer.body);
    } catch (error) {
      if (!(error instanceof AddressError)) throw error;
      return void res.status(422).json({ code: error.code, message: error.message, host: error.host });
    } finally {
      asking -= 1;
    }
  });
  return router;
}

/**
 * Encoders send a source by WHIP (RFC 9725), viewers watch the programme by WHEP (draft-ietf-wish-whep): an offer comes by HTTP with a key, the window
 * that runs the show answers it, and pictures and sound go between these two alone.
 */
import { createHash, randomBytes } from 'node:crypto';
import express, { type Request, type Response } from 'express';
import { isRecord } from '#core/schema/record';
import { isValid } from '#core/panels/pass';
import { type WayKind } from '#core/panels/way-in';
import { ALL_OF_THEM } from '#core/panels/way-name';
import { LONGEST_FRAGMENT, readFragment } from '#core/peers/sdp-fragment';
import { addressOf, bearerOf, sameSecret, tooMany } from '../guard';
import { type HostLine } from '../remote/host-line';
import { type Relay } from '../remote/relay';
import { type Throttle } from '../throttle';

/** Bytes of an offer. */
const OFFER_LIMIT = '100kb';
/** Sessions remembered; the oldest is forgotten, and ends by itself. */
const MOST_SESSIONS = 200;

interface Session {
  line: HostLine;
  hash: string;
}

const refuse = (res: Response, status: number, code: string, message: string) => void res.status(status).json({ code, message });

export function httpPeers(relay: Relay, guesses: Throttle): express.Router {
  const router = express.Router();
  const sessions = new Map<string, Session>();

  /** The hash of the key that a request brings; null, and answered, without one. */
  function keyOf(req: Request, res: Response): string | null {
    const slow = tooMany(guesses, req);
    if (slow) {
      res.set('Retry-After', String(slow.retryAfter ?? 1));
      refuse(res, 429, 'refused', slow.message);
      return null;
    }
    const key = bearerOf(req);
    if (key === null) {
      res.set('WWW-Authenticate', 'Bearer');
      refuse(res, 401, 'refused', 'This needs the key of the link, as Authorization: Bearer.');
      return null;
    }
    return createHash('sha256').update(key).digest('hex');
  }

  async function offer(req: Request, res: Response, way: Extract<WayKind, 'encoder' | 'viewer'>, id: string): Promise<void> {
    const hash = keyOf(req, res);
    if (hash === null) return;
    if (!req.is('application/sdp') || typeof req.body !== 'string' || !req.body.startsWith('v=0')) {
      refuse(res, 415, 'bad-body', 'Send an offer as application/sdp.');
      return;
    }
    const line = relay.find(String(req.params.show));
    if (!line?.ways) {
      res.set('Retry-After', '2');
      refuse(res, 503, 'no-host', 'The show is not open in any window now. Try again.');
      return;
    }
    const found = line.ways.find((w) => w.kind === way && w.id === id && sameSecret(w.hash, hash));
    if (!found || !isValid(found, Date.now())) {
      if (!found) guesses.wrong(addressOf(req));
      res.set('WWW-Authenticate', 'Bearer error="invalid_token"');
      refuse(res, 401, 'refused', found ? 'This key has ended.' : 'This key is not known here, or was withdrawn.');
      return;
    }
    guesses.right(addressOf(req));
    const session = randomBytes(12).toString('hex');
    const answer = await line.ask({ what: 'peer-offer', way, id, session, sdp: req.body });
    if (!answer.ok || !isRecord(answer.value) || typeof answer.value.sdp !== 'string') {
      refuse(res, 422, 'refused', answer.ok ? 'The window that runs the show gave no answer.' : answer.message);
      return;
    }
    sessions.set(session, { line, hash });
    if (sessions.size > MOST_SESSIONS) sessions.delete(sessions.keys().next().value as string);
    res
      .status(201)
      .set({ Location: `${req.originalUrl.split('?')[0]?.replace(/\/$/u, '')}/session/${session}`, ETag: `"${session}"` })
      .type('application/sdp')
      .send(answer.value.sdp);
  }

  /** The session of a request by whoever began it; null, and answered, for anybody else. */
  function sessionOf(req: Request, res: Response): { name: string; line: HostLine } | null {
    const hash = keyOf(req, res);
    if (hash === null) return null;
    const name = String(req.params.session);
    const found = sessions.get(name);
    if (found && sameSecret(found.hash, hash)) return { name, line: found.line };
    if (found) guesses.wrong(addressOf(req));
    refuse(res, 404, 'not-found', 'There is no such session.');
    return null;
  }

  /** A place at which offers are taken, with the sessions that they begin. */
  function place(path: string, way: Extract<WayKind, 'encoder' | 'viewer'>, idOf: (req: Request) => string): void {
    const offers = router.route(path);
    offers.options((_req, res) => void res.set('Accept-Post', 'application/sdp').status(204).end());
    offers.post(express.text({ type: 'application/sdp', limit: OFFER_LIMIT }), (req, res) => offer(req, res, way, idOf(req)));
    const session = router.route(`${path}/session/:session`);
    session.delete(async (req, res) => {
      const known = sessionOf(req, res);
      if (!known) return;
      sessions.delete(known.name);
      await known.line.ask({ what: 'peer-end', session: known.name });
      res.status(200).end();
    });
    session.patch(express.text({ type: 'application/trickle-ice-sdpfrag', limit: LONGEST_FRAGMENT }), async (req, res) => {
      const known = sessionOf(req, res);
      if (!known) return;
      const candidates = typeof req.body === 'string' ? readFragment(req.body) : null;
      if (!candidates) return refuse(res, 415, 'bad-body', 'Send candidates as application/trickle-ice-sdpfrag.');
      await known.line.ask({ what: 'peer-candidates', session: known.name, candidates });
      res.status(204).end();
    });
    for (const route of [offers, session])
      route.all((_req, res) => refuse(res, 405, 'refused', 'Only POST here; PATCH and DELETE at the address that it answers with.'));
  }

  place('/whip/:show/:id', 'encoder', (req) => String(req.params.id));
  place('/whep/:show', 'viewer', () => ALL_OF_THEM);
  return router;
}

/**
 * Servers that help two ends to find a way to each other through routers: STUN (RFC 8489) tells an address as others see it, TURN (RFC 8656) hands
 * everything on. None is asked unless somebody has set it. They are written one on each line: `stun:host:port`, or `turn:host:port name password`.
 */

export interface IceServer {
  urls: string;
  username?: string;
  credential?: string;
}

const MOST_SERVERS = 8;
const LONGEST = 200;
/** Schemes, host and port of RFC 7064 and RFC 7065. */
const ADDRESS = /^(stun|stuns|turn|turns):(\[[0-9a-fA-F:.]+\]|[A-Za-z0-9.-]+)(:\d{1,5})?(\?transport=(udp|tcp))?$/u;

/** The servers that lines name, and what is wrong with a line, in words. */
export function readIceServers(text: string): { servers: IceServer[]; problems: string[] } {
  const servers: IceServer[] = [];
  const problems: string[] = [];
  text.split('\n').forEach((line, i) => {
    const [urls = '', username, credential, ...more] = line.trim().split(/\s+/u);
    if (urls === '') return;
    const say = (words: string) => problems.push(`Line ${i + 1}: ${words}`);
    const scheme = ADDRESS.exec(urls)?.[1];
    if (!scheme || line.length > LONGEST) return say('write stun:host:port, or turn:host:port name password.');
    if (more.length > 0) return say('this is more than address, name and password.');
    if (scheme.startsWith('turn') && (username === undefined || credential === undefined))
      return say('a TURN server wants a name and a password.');
    if (servers.length >= MOST_SERVERS) return say(`at most ${MOST_SERVERS} servers are asked.`);
    servers.push(scheme.startsWith('turn') ? { urls, username: username ?? '', credential: credential ?? '' } : { urls });
    return undefined;
  });
  return { servers, problems };
}

/** Servers out of what somebody has told; none where they are none. */
export function iceServersFrom(raw: unknown): IceServer[] {
  if (!Array.isArray(raw)) return [];
  const text = raw
    .slice(0, MOST_SERVERS)
    .map((s) =>
      typeof s === 'object' && s !== null
        ? [Reflect.get(s, 'urls'), Reflect.get(s, 'username') ?? '', Reflect.get(s, 'credential') ?? ''].join(' ')
        : '',
    )
    .join('\n');
  return readIceServers(text).servers;
}

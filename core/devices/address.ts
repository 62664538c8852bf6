/** Addresses of devices, put right and refused with the cause. A port is never changed. */
import { type DeviceSettings } from './document';

/** A host as it is meant: without blanks around it, a protocol before it or a path behind it. */
function hostOf(text: string): string {
  return text
    .trim()
    .replace(/^[a-z][a-z0-9+.-]*:\/\//i, '')
    .replace(/[/?#].*$/, '')
    .replace(/\.$/, '');
}

/** A name (RFC 1123), an IPv4 address, or an IPv6 address with or without brackets. */
function isHost(host: string): boolean {
  if (/^\[?[0-9a-f:.%]+\]?$/i.test(host) && host.includes(':')) return true;
  if (/^[\d.]+$/.test(host)) return /^(\d{1,3}\.){3}\d{1,3}$/.test(host) && host.split('.').every((n) => Number(n) <= 255);
  return host.length <= 253 && host.split('.').every((label) => /^[a-z0-9_]([a-z0-9_-]{0,61}[a-z0-9_])?$/i.test(label));
}

/** What an address was put right to, and what was done; or why it is none. */
export type Righted<T> = { ok: true; settings: T; done: string[] } | { ok: false; message: string };

function rightAddress(address: string, protocols: readonly [string, string]): { address: string; done: string[] } | string {
  const done: string[] = [];
  let text = address.trim();
  const [plain, secure] = protocols;
  const other = plain === 'http:' ? /^wss?:\/\// : /^https?:\/\//;
  if (other.test(text)) {
    text = text.replace(other, (p) => (p.includes('s://') ? `${secure}//` : `${plain}//`));
    done.push(`it begins with ${plain}// now`);
  } else if (!/^[a-z][a-z0-9+.-]*:\/\//i.test(text)) {
    text = `${plain}//${text}`;
    done.push(`${plain}// was put before it`);
  }
  let url: URL;
  try {
    url = new URL(text);
  } catch {
    return `“${address.slice(0, 80)}” is no address. It reads like ${plain}//192.168.1.20:8080/path.`;
  }
  if (url.protocol !== plain && url.protocol !== secure)
    return `This device is reached by ${plain}// or ${secure}//, not by ${url.protocol}//.`;
  if (url.username !== '' || url.password !== '')
    return 'Names and passwords do not belong in an address: whoever sees the show would read them.';
  if (!isHost(url.hostname)) return `“${url.hostname.slice(0, 80)}” is no host.`;
  if (url.hash !== '') {
    url.hash = '';
    done.push('what stood behind # was left out');
  }
  // The URL's own text drops the port where it is the protocol's own; the words that were typed keep it.
  return { address: url.toString().replace(/\/$/, ''), done };
}

/** Settings of a device put right as far as it is sure what is meant. */
export function rightSettings<T extends DeviceSettings>(settings: T): Righted<T> {
  if (settings.kind === 'midi') return { ok: true, settings, done: [] };
  if (settings.kind === 'http' || settings.kind === 'websocket') {
    const righted = rightAddress(settings.address, settings.kind === 'http' ? ['http:', 'https:'] : ['ws:', 'wss:']);
    if (typeof righted === 'string') return { ok: false, message: righted };
    return { ok: true, settings: { ...settings, address: righted.address }, done: righted.done };
  }
  const typed = settings.host.trim();
  let host = hostOf(typed);
  const done = host === typed ? [] : [`the host is ${host}`];
  const port = /^([^:]+):(\d{1,5})$/.exec(host);
  if (port) {
    host = port[1] ?? '';
    // Both say a port: which one is meant is not for us to guess.
    if (Number(port[2]) !== settings.port)
      return {
        ok: false,
        message: `The host says port ${port[2]}, the field beside it ${settings.port}. Write the port in its field alone.`,
      };
    done.push('the port stands in its own field');
  }
  if (!isHost(host))
    return {
      ok: false,
      message: `“${typed.slice(0, 80)}” is no host. Write a name such as lamps.local, or an address such as 192.168.1.20.`,
    };
  return { ok: true, settings: { ...settings, host }, done };
}

/** Where a device is, for people. */
export function placeWords(settings: DeviceSettings): string {
  switch (settings.kind) {
    case 'http':
    case 'websocket':
      return settings.address;
    case 'midi':
      return settings.port === '' ? 'no port yet' : settings.port;
    case 'osc':
      return `${settings.host}:${settings.port} ${settings.carrier === 'udp' ? 'UDP' : 'TCP'}`;
    default:
      return `${settings.host}:${settings.port} ${settings.kind.toUpperCase()}`;
  }
}

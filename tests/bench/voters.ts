/** A crowd in a process of its own: opens pages of the audience at a server, votes and writes. Arguments: port, show, secret, people, comments a second. */
import { WebSocket } from 'ws';
import { AUDIENCE_VERSION, type ToVisitor } from '#core/audience/line';

const [port, show, secret, people, comments] = process.argv.slice(2);
const count = Number(people);
const counts = { open: 0, taken: 0, refused: 0, closed: 0, pages: 0 };
/** Sockets that are opened together. */
const AT_ONCE = 50;

function enter(i: number): Promise<WebSocket> {
  return new Promise((resolve) => {
    const socket = new WebSocket(`ws://127.0.0.1:${port}/api/audience`);
    let voted = '';
    const say = (message: unknown) => socket.readyState === WebSocket.OPEN && socket.send(JSON.stringify(message));
    socket.on('open', () => {
      say({ kind: 'enter', version: AUDIENCE_VERSION, show, secret, device: `voter ${i}` });
      say({ kind: 'me', name: `Voter ${i}`, picture: null });
      counts.open += 1;
      resolve(socket);
    });
    socket.on('message', (data) => {
      const message = JSON.parse(String(data)) as ToVisitor;
      if (message.kind === 'ping') say({ kind: 'pong' });
      if (message.kind === 'comment') counts[message.refused === null ? 'taken' : 'refused'] += 1;
      if (message.kind !== 'page') return;
      counts.pages += 1;
      const poll = message.page.poll;
      if (!poll?.open || voted === poll.key) return;
      voted = poll.key;
      setTimeout(() => say({ kind: 'vote', poll: poll.key, choice: i % poll.choices.length }), Math.random() * 8000);
    });
    socket.on('error', () => resolve(socket));
    socket.on('close', () => (counts.closed += 1));
  });
}

const sockets: WebSocket[] = [];
for (let i = 0; i < count; i += AT_ONCE)
  sockets.push(...(await Promise.all(Array.from({ length: Math.min(AT_ONCE, count - i) }, (_, n) => enter(i + n)))));
process.send?.({ ready: true });
let n = 0;
setInterval(() => {
  for (let i = 0; i < Number(comments) / 20; i += 1) {
    const socket = sockets[n % sockets.length];
    n += 1;
    if (socket?.readyState === WebSocket.OPEN)
      socket.send(JSON.stringify({ kind: 'comment', text: `Comment ${n} of somebody at the pier` }));
  }
}, 50);
process.on('message', () => process.send?.({ counts }));

/** Servers as they are written, with what is wrong said by its line. */
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { iceServersFrom, readIceServers } from './ice-servers';

it('are read by the line, and what is wrong is said with its place', () => {
  const { servers, problems } = readIceServers(
    [
      'stun:stun.pier.invalid:3478',
      '',
      'turn:[2001:db8::1]:3478?transport=tcp mara kites',
      'http://pier.invalid',
      'turn:pier.invalid',
      'stun:a b c d',
    ].join('\n'),
  );
  expect(servers).toEqual([
    { urls: 'stun:stun.pier.invalid:3478' },
    { urls: 'turn:[2001:db8::1]:3478?transport=tcp', username: 'mara', credential: 'kites' },
  ]);
  expect(problems.map((p) => p.split(':')[0])).toEqual(['Line 4', 'Line 5', 'Line 6']);
});

it('come through a message as they are, and nothing else does', () => {
  const { servers } = readIceServers('stun:a.invalid:1\nturns:b.invalid:2 x y');
  expect(iceServersFrom(JSON.parse(JSON.stringify(servers)))).toEqual(servers);
  fc.assert(fc.property(fc.jsonValue(), (raw) => void iceServersFrom(raw)));
  expect(iceServersFrom([{ urls: 'javascript:alert(1)' }, null, 'stun:x'])).toEqual([]);
});

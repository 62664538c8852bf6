/** Fragments of session descriptions, out of whatever comes. */
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { readFragment } from './sdp-fragment';

it('gives candidates with the part of the description that they belong to', () => {
  const text = [
    'a=ice-ufrag:EsAw',
    'a=ice-pwd:P2uYro0UCOQ4zxjKXaWCBui1',
    'm=audio 9 RTP/AVP 0',
    'a=mid:0',
    'a=candidate:1387637174 1 udp 2122260223 192.0.2.1 61764 typ host generation 0 ufrag EsAw network-id 1',
    'm=video 9 RTP/AVP 96',
    'a=mid:v',
    'a=candidate:3471623853 1 udp 2122194687 198.51.100.2 61765 typ host generation 0 ufrag EsAw network-id 2',
    'a=end-of-candidates',
    '',
  ].join('\r\n');
  expect(readFragment(text)?.map(({ candidate, sdpMid }) => [candidate.slice(0, 20), sdpMid])).toEqual([
    ['candidate:1387637174', '0'],
    ['candidate:3471623853', 'v'],
  ]);
});

it('is refused where it is none, and never fails', () => {
  for (const text of ['{"candidate": 1}', 'GET / HTTP/1.1', `a=${'x'.repeat(5000)}`, 'a=x\n'.repeat(20_000)])
    expect(readFragment(text)).toBeNull();
  fc.assert(fc.property(fc.string({ maxLength: 400 }), (text) => void readFragment(text)));
  expect(readFragment('a=mid:0\n'.repeat(20) + 'a=candidate:1 1 udp 1 192.0.2.1 1 typ host\n'.repeat(100))?.length).toBe(60);
});

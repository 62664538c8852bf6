/** How guests, encoders and viewers find a way to this window: servers to ask, which are none at first. */
import { useState } from 'react';
import { iceServersText, setIceServers } from '#engine/peers/ice-servers';
import { useShowClient } from '../client/show-client';
import { say } from '../client/say';
import { Button } from '../parts/button';

export function ConnectionsPanel() {
  const { panel } = useShowClient();
  const [text, setText] = useState(iceServersText);
  const [problems, setProblems] = useState<readonly string[]>([]);
  if (panel) return <p className="p-4 text-muted">How guests find their way is set at the window that runs the show.</p>;
  const save = () => {
    const found = setIceServers(text);
    setProblems(found);
    if (found.length === 0) say.good('Kept in this browser. Connections that are made from now on ask them.', { id: 'connections' });
  };
  return (
    <section aria-label="Connections" className="flex max-w-2xl flex-col gap-2 p-4">
      <h2 className="text-lg font-semibold">Guests, encoders and viewers</h2>
      <p className="text-muted">
        In one network they find each other by themselves, and nobody else is asked. From beyond a router that does not let them through, a
        STUN server tells an address as others see it, and a TURN server hands everything on. Those named here are asked for each
        connection.
      </p>
      <label className="flex flex-col gap-1">
        <span className="text-[13px] text-muted">Servers, one on each line: stun:host:port, or turn:host:port name password</span>
        <textarea className="figures" rows={5} spellCheck={false} value={text} onChange={(e) => setText(e.target.value)} />
      </label>
      {problems.map((problem) => (
        <p key={problem} role="alert" className="text-caution">
          {problem}
        </p>
      ))}
      <div>
        <Button look="straw" onClick={save}>
          Keep
        </Button>
      </div>
    </section>
  );
}

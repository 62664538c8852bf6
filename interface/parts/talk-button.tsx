/** Talkback to listeners while it is held. */
import { Mic } from 'lucide-react';
import { useSend, useShow, useShowClient } from '../client/show-client';
import { HeldButton } from './held-button';

interface TalkButtonProps {
  ids: readonly string[];
  name: string;
  label: string;
  title: string;
  /** Said where there is nobody to be spoken to. */
  nobody: string;
  keyFor?: string;
}

export function TalkButton({ ids, name, label, title, nobody, keyFor }: TalkButtonProps) {
  const client = useShowClient();
  const send = useSend();
  const talking = useShow(({ desk: { air } }) => ids.some((id) => air.sound.talkback?.listenerIds.includes(id)));
  return (
    <HeldButton
      active={talking}
      className="min-h-9!"
      aria-label={`Talk to ${name} while held`}
      title={title}
      unusable={ids.length === 0 ? nobody : null}
      {...(keyFor !== undefined && { keyFor })}
      onBegin={() => send('talkback.start', { listeners: [...ids] })}
      // As it is when it is let go: it may come before what was begun has been drawn.
      onEnd={() => client.state.desk.air.sound.talkback && send('talkback.stop')}
    >
      <Mic size={14} /> {label}
    </HeldButton>
  );
}

/** What a step does, as a sentence; what it names of the show stands out. */
import { type Word } from '#core/automation/words';

export function Sentence({ words }: { words: readonly Word[] }) {
  return <span>{words.map(({ text, strong }, i) => (strong ? <strong key={i}>{text}</strong> : <span key={i}>{text}</span>))}</span>;
}

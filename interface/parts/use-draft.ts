/** What is typed into a field before it is kept. */
import { useState } from 'react';

/** The text of a field: what is kept, until something else is typed; anew whenever what is kept changes. Not by an effect: it might come after the first keys. */
export function useDraft(kept: string): [text: string, setText: (text: string) => void] {
  const [text, setText] = useState(kept);
  const [before, setBefore] = useState(kept);
  if (before !== kept) {
    setBefore(kept);
    setText(kept);
    return [kept, setText];
  }
  return [text, setText];
}

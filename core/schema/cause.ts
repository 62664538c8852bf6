/** Why something failed, for people. */

/** Words that libraries, and the language itself, have for their makers: they help nobody who works a show. */
const FOR_MAKERS =
  /assert|report (it|this)|please|is not a function|cannot read propert|is (undefined|null|not defined|not iterable)|call stack|invalid state/i;

/** The message of an error, unless it is of the kind that only the makers of a library understand. */
export function causeOf(error: unknown): string {
  const text = error instanceof Error ? error.message : String(error);
  return text === '' || FOR_MAKERS.test(text) ? 'something in it failed that should not' : text;
}

/** A copy of plain data that shares nothing with it; a draft becomes plain too. */
export const plainCopy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** How formulas are kept: as they were written. */

/** Characters of a formula. */
export const MOST_FORMULA = 2000;

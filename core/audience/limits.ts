/** How much the audience may write: apart from the document, as their page knows it too and is to be small. */

/** Characters of a comment, and of the name of whoever writes it. */
export const LONGEST_COMMENT = 280;
export const LONGEST_SENDER_NAME = 40;

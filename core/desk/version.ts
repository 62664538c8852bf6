/** Version of the show document: each step to the next one stands in the migrations of the domains. By itself, as much is asked by it alone. */
export const SHOW_VERSION = 13;

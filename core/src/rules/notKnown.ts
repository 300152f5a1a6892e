/** The method of a shower that somebody else built: what can be seen of it, and how it holds water, are asked. */
export const NOT_KNOWN = 'not-known';

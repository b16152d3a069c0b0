import { v4 } from 'uuid';

/**
 * An id for something new. Of its own, because browsers have `crypto.randomUUID` only where an address is secure, and
 * another machine may reach Bright Reel by plain HTTP.
 */
export const newId = (): string => v4();

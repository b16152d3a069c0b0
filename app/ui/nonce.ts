import { createContext } from 'react';

/** What marks the scripts of a page as ours while the server renders it; browsers hide it from whoever looks later. */
export const NonceContext = createContext<string | undefined>(undefined);

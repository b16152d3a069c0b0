export type SaveState = 'saved' | 'saving' | 'away';

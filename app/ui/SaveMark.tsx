/** Whether what was changed is saved; `away` while the server does not answer. */
export type SaveState = 'saved' | 'saving' | 'away';

const saveWords: Record<SaveState, string> = {
  saved: 'Saved',
  saving: 'Saving…',
  away: 'The server is away; your changes are kept here and sent again',
};
/** Says it beside what is saved. */
export const SaveMark = ({ state }: { state: SaveState }) => (
  <span
    className={`whitespace-nowrap text-xs ${state === 'away' ? 'text-shake' : 'text-muted'}`}
    role="status"
    data-testid="save-state"
    title={saveWords[state]}
  >
    {state === 'away' ? 'Kept here' : saveWords[state]}
  </span>
);

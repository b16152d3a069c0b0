/** A label and its field side by side, all labels of a panel as wide. */
export const formRow = 'grid grid-cols-[104px_1fr] items-center gap-3';

/** Names the item that came of an upload, in the answer to its last part. */
export const itemHeader = 'Upload-Item';

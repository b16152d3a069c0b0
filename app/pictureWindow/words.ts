/** What the window for the picture says. */
export const pictureWords = {
  title: 'Picture',
  open: 'Picture in a window of its own',
  alone: 'The window that this picture belongs to was closed. This one can be closed too.',
  nothing: 'There is no picture in this place. It comes back with Moments, a reel, shorts or a montage.',
};

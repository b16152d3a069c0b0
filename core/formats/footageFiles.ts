/** Endings of what can be brought in. */
const endings =
  /\.(mp4|m4v|mov|qt|mkv|webm|avi|mts|m2ts|m2t|ts|mpe?g|mpv|vob|mxf|dv|3gp|3g2|wmv|flv|ogv|y4m|gif|apng|jpe?g|jfif|png|webp|bmp|tiff?|hei[cf]|avif|mp3|wav|bwf|w64|rf64|m4a|aac|flac|ogg|oga|opus|aiff?|caf|wma)$/i;

/** What systems put beside files: ".DS_Store", "._clip.mov", "Thumbs.db". */
export const isHiddenFile = (name: string): boolean => name.startsWith('.') || /^thumbs\.db$/i.test(name);
/** Whether a file in a folder is footage, by its name; what else lies there is passed over. */
export const isFootageFile = (name: string): boolean => !isHiddenFile(name) && endings.test(name);

/** The bin of a file in folders. Bins have no bins in them: a folder in a folder is "Day 1 / Card 2". */
export const binOfPath = (path: string): string | null => {
  const folders = path.split('/').filter(Boolean).slice(0, -1);
  return folders.length ? folders.join(' / ').slice(-120) : null;
};

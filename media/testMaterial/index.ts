export { hasRealPictures, makeBase, placeIn, type MadeFile, type MadeIn } from './base';
export { layDown, withExif } from './photos';
import { films } from './films';
import { labels } from './labels';
import { photos } from './photos';

/** Small files of every kind that phones, cameras, recorders and archives give, and what is true of each. */
export const material = [...photos, ...films, ...labels];

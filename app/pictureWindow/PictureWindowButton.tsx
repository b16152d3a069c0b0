import { AppWindow } from 'lucide-react';
import { IconButton } from '../ui/controls';
import { openPictureWindow } from './pictureWindow';
import { pictureWords } from './words';

/** Opens the window for the picture, to be put on a second screen. */
export const PictureWindowButton = () => (
  <IconButton label={pictureWords.open} command="pictureWindow" onClick={openPictureWindow}>
    <AppWindow size={15} />
  </IconButton>
);

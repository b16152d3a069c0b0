import type { Aim } from '#usecases/beginnings';
import { FilePicker } from '../ui/FileButton';
import { DoorPicture } from './DoorPicture';
import { homeWords } from './words';

const doorAims: readonly Aim[] = ['reel', 'shorts', 'montage'];

interface DoorsProps {
  /** The door over which files are held. */
  over: Aim | null;
  disabled?: boolean;
  /** Files that were chosen through a door. */
  onFiles?(aim: Aim, files: File[]): void;
  /** Where the files are there already: what is to be made of them. */
  onAim?(aim: Aim): void;
}

/** The three things that people come to make. */
export function Doors({ over, disabled = false, onFiles, onAim }: DoorsProps) {
  return (
    <ul className="grid grid-cols-3 gap-4">
      {doorAims.map((aim) => (
        <Door
          key={aim}
          aim={aim}
          isOver={over === aim}
          disabled={disabled}
          {...(onFiles ? { onFiles: (files: File[]) => onFiles(aim, files) } : {})}
          {...(onAim ? { onAim: () => onAim(aim) } : {})}
        />
      ))}
    </ul>
  );
}

interface DoorProps {
  aim: Aim;
  isOver: boolean;
  disabled: boolean;
  onFiles?(files: File[]): void;
  onAim?(): void;
}

function Door({ aim, isOver, disabled, onFiles, onAim }: DoorProps) {
  const { title, line } = homeWords.doors[aim];
  const button = (open: () => void) => (
    <button
      type="button"
      disabled={disabled}
      onClick={open}
      className={`group flex h-full w-full flex-col overflow-hidden rounded-md border text-left transition-colors duration-100 ${isOver ? 'border-lampline bg-raised' : 'border-line hover:border-muted hover:bg-raised'}`}
    >
      <DoorPicture aim={aim} />
      <span className="flex flex-1 flex-col px-4 pb-4 pt-3">
        <span className="text-base font-semibold">{title}</span>
        <span className="mt-1 text-muted">{line}</span>
        {onFiles && (
          <span className="mt-auto pt-3 text-xs">
            <span className="text-lampline underline underline-offset-2">{homeWords.choose}</span>
            <span className="text-muted">: {homeWords.bring[aim]}</span>
          </span>
        )}
      </span>
    </button>
  );
  return (
    <li data-door={aim}>
      {onFiles ? (
        <FilePicker label={`Files for: ${title}`} onFiles={onFiles}>
          {button}
        </FilePicker>
      ) : (
        button(() => onAim?.())
      )}
    </li>
  );
}

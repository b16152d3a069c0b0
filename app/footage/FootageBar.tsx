import { FilePlus, FolderInput } from 'lucide-react';
import { useRef, type ReactNode } from 'react';
import { useFetcher } from 'react-router';
import { Button, inputLook } from '../ui/controls';
import { ByLink } from './ByLink';
import { FromHere } from './FromHere';
import { TakeOut } from './TakeOut';

/** What browsers do not know by its ending stands beside what they do. */
const accepted =
  'video/*,audio/*,image/*,.mkv,.mts,.m2ts,.ts,.mxf,.mpg,.mpeg,.dv,.avi,.mov,.heic,.heif,.avif,.tif,.tiff,.wav,.bwf,.aif,.aiff';

interface Bin {
  id: string;
  name: string;
  synced: boolean;
}
/** What may be asked about items before it is done: minutes to read, a colour table, whether they go. */
export type AskedOfChosen = 'range' | 'look' | 'out';

interface FootageBarProps {
  bins: readonly Bin[];
  /** The open one; null for all footage. */
  open: Bin | null;
  isEmpty: boolean;
  projectId: string;
  /** Whether there is a folder of this machine to bring footage in from. */
  hasHere: boolean;
  chosen: ReadonlySet<string>;
  /** At the right: what the table shows. */
  tools: ReactNode;
  onFiles(files: { file: File; path: string }[]): void;
  /** Does something with what is chosen. */
  onChosen(intent: string, more?: Record<string, string>): void;
  onDone(): void;
  /** What is asked for about what is chosen, or the open bin. */
  asked: AskedOfChosen | null;
  onAsk(what: AskedOfChosen): void;
}

/** Above the table: bringing in, what can be done with what is chosen, what is shown. */
export function FootageBar({ bins, open, chosen, tools, onChosen, ...props }: FootageBarProps) {
  const picker = useRef<HTMLInputElement>(null);
  const folderPicker = useRef<HTMLInputElement>(null);
  return (
    <div className="flex min-h-12 shrink-0 flex-wrap items-center gap-2 border-b border-line px-4 py-1.5">
      <h1 className="sr-only">Footage</h1>
      {chosen.size === 0 && (
        <>
          <Button look={props.isEmpty ? 'lamp' : 'plain'} onClick={() => picker.current?.click()}>
            <FilePlus size={15} aria-hidden /> Bring in files
          </Button>
          <Button onClick={() => folderPicker.current?.click()}>
            <FolderInput size={15} aria-hidden /> A folder
          </Button>
        </>
      )}
      <input
        ref={picker}
        type="file"
        aria-label="Files"
        multiple
        hidden
        accept={accepted}
        onChange={(event) => {
          props.onFiles([...(event.target.files ?? [])].map((file) => ({ file, path: file.name })));
          event.target.value = '';
        }}
      />
      <input
        ref={folderPicker}
        type="file"
        aria-label="Folder"
        multiple
        hidden
        {...{ webkitdirectory: '' }}
        onChange={(event) => {
          props.onFiles([...(event.target.files ?? [])].map((file) => ({ file, path: file.webkitRelativePath })));
          event.target.value = '';
        }}
      />
      {chosen.size > 0 ? (
        <>
          <span className="mr-2 whitespace-nowrap">{chosen.size} chosen</span>
          <select
            aria-label="Move to bin"
            className={`${inputLook} !h-[30px]`}
            value=""
            onChange={(event) => onChosen('move', { binId: event.target.value === 'none' ? '' : event.target.value })}
          >
            <option value="" disabled>
              Move to bin…
            </option>
            <option value="none">No bin</option>
            {bins.map((each) => (
              <option key={each.id} value={each.id}>
                {each.name}
              </option>
            ))}
          </select>
          <Button onClick={() => onChosen('read')}>Try reading again</Button>
          <Button aria-pressed={props.asked === 'range'} onClick={() => props.onAsk('range')}>
            Reading range…
          </Button>
          <Button aria-pressed={props.asked === 'look'} onClick={() => props.onAsk('look')}>
            Input look…
          </Button>
          <TakeOut
            ids={[...chosen]}
            isOpen={props.asked === 'out'}
            onOpen={() => props.onAsk('out')}
            onDone={props.onDone}
          />
        </>
      ) : (
        <>
          <ByLink bin={open?.id ?? null} />
          {props.hasHere && <FromHere projectId={props.projectId} bin={open?.id ?? null} />}
          {!open && (
            <span className="ml-1 min-w-0 flex-1 basis-0 truncate text-muted">or drop files and folders here</span>
          )}
        </>
      )}
      {open && chosen.size === 0 && (
        <Button
          className="ml-2"
          aria-pressed={props.asked === 'look'}
          title="A colour table for logarithmic footage, for all of this bin"
          onClick={() => props.onAsk('look')}
        >
          Input look…
        </Button>
      )}
      {open && <InStep bin={open} />}
      {tools}
    </div>
  );
}

/** Whether the cameras of a bin ran at the same time. */
function InStep({ bin }: { bin: Bin }) {
  const fetcher = useFetcher();
  return (
    <label
      className="ml-3 flex items-center gap-2"
      title="Two cameras that ran at the same time: their offsets are found by their sound, and steady and shaky reels keep every piece in its place"
    >
      <input
        type="checkbox"
        className="h-4 w-4 accent-muted"
        checked={bin.synced}
        onChange={(event) =>
          void fetcher.submit(
            { intent: 'in-step', binId: bin.id, synced: event.target.checked ? 'yes' : 'no' },
            { method: 'post' },
          )
        }
      />
      Synchronised cameras
    </label>
  );
}

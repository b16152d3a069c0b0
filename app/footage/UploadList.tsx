import { counted, formatSize, formatTimeLeft } from '#core/sentences';
import { RotateCcw, Upload } from 'lucide-react';
import { useRef } from 'react';
import { Button } from '../ui/controls';
import type { BrokenOff, UploadLine, UploadState, UploadTotal } from './uploadQueue';
import { UploadRow } from './UploadRow';

interface UploadListProps extends Omit<UploadState, 'arrived'> {
  /** How many files of dropped folders were passed over. */
  passedOver: number;
  onCancel(id: number): void;
  onCancelAll(): void;
  /** A file that was broken off was chosen again, or another. */
  onFiles(files: File[]): void;
  onForget(broken: BrokenOff): void;
}

/** So many files that wait stand by name. */
const waitingShown = 3;

/** What is on its way in: one total, the files that are moving, those that stopped, and what was broken off earlier. */
export function UploadList(props: UploadListProps) {
  const { lines, total, brokenOff, passedOver } = props;
  const waiting = lines.filter((line) => line.state === 'waiting');
  const row = (line: UploadLine) => <UploadRow key={line.id} upload={line} onCancel={() => props.onCancel(line.id)} />;
  return (
    <>
      {total && total.files > 1 && <Total total={total} onCancelAll={props.onCancelAll} />}
      {passedOver > 0 && (
        <p role="status" className="border-b border-line/60 px-4 py-2 text-xs text-muted">
          {passedOver === 1 ? 'One file of the folder is' : `${passedOver} files of the folder are`} no video, photo,
          music or sound, and {passedOver === 1 ? 'was' : 'were'} left out.
        </p>
      )}
      {lines.filter((line) => line.state !== 'waiting').map(row)}
      {waiting.slice(0, waitingShown).map(row)}
      {waiting.length > waitingShown && (
        <p className="border-b border-line/60 px-4 py-2 text-xs text-muted">
          {waiting.length - waitingShown} more files wait.
        </p>
      )}
      {brokenOff.map((each) => (
        <Broken key={each.key} broken={each} onFiles={props.onFiles} onForget={() => props.onForget(each)} />
      ))}
    </>
  );
}

function Total({ total, onCancelAll }: { total: UploadTotal; onCancelAll(): void }) {
  const { files, arrived, bytes, sent, secondsLeft } = total;
  return (
    <div className="flex items-center gap-3 border-b border-line bg-raised px-4 py-2" role="status">
      <Upload size={15} aria-hidden />
      <span className="w-64">
        {arrived} of {counted(files, 'file')} {arrived === 1 ? 'is' : 'are'} here
      </span>
      <progress
        className="h-1 w-48 appearance-none overflow-hidden rounded bg-line [&::-webkit-progress-bar]:bg-line [&::-webkit-progress-value]:bg-text"
        aria-label="Files on their way"
        value={sent}
        max={bytes || 1}
      />
      <span className="tabular text-muted">
        {formatSize(sent)} of {formatSize(bytes)}
        {secondsLeft === null ? '' : `, ${formatTimeLeft(secondsLeft)}`}
      </span>
      <button type="button" className="ml-auto text-muted underline hover:text-text" onClick={onCancelAll}>
        Cancel all
      </button>
    </div>
  );
}

function Broken({ broken, onFiles, onForget }: { broken: BrokenOff; onFiles(files: File[]): void; onForget(): void }) {
  const picker = useRef<HTMLInputElement>(null);
  return (
    <div className="flex items-center gap-3 border-b border-line/60 px-4 py-2" role="status">
      <RotateCcw size={15} className="text-muted" aria-hidden />
      <span className="w-64 truncate">{broken.name}</span>
      <span className="text-muted">
        was interrupted; {formatSize(broken.sent)} of {formatSize(broken.size)} are here. Choose it again to go on.
      </span>
      <Button className="ml-auto" onClick={() => picker.current?.click()}>
        Choose it again
      </Button>
      <input
        ref={picker}
        type="file"
        hidden
        aria-label={`${broken.name} again`}
        onChange={(event) => onFiles([...(event.target.files ?? [])])}
      />
      <button type="button" className="text-muted underline hover:text-text" onClick={onForget}>
        Forget it
      </button>
    </div>
  );
}

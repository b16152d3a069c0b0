import { useRef, type ReactNode } from 'react';
import { Button } from './controls';

interface FilePickerProps {
  /** Of the field, for those who do not see the dialog. */
  label: string;
  folder?: boolean;
  onFiles(files: File[]): void;
  /** What opens the dialog. */
  children(open: () => void): ReactNode;
}

/** A field for files that is opened by something else. */
export function FilePicker({ label, folder = false, onFiles, children }: FilePickerProps) {
  const field = useRef<HTMLInputElement>(null);
  return (
    <>
      {children(() => field.current?.click())}
      <input
        ref={field}
        type="file"
        multiple
        className="hidden"
        aria-label={label}
        // React does not know this attribute by its type.
        {...(folder ? { webkitdirectory: '' } : {})}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          // So that the same files can be chosen again.
          event.target.value = '';
          if (files.length) onFiles(files);
        }}
      />
    </>
  );
}

/** A button that asks for files, or for a folder. */
export const FileButton = ({
  label,
  folder = false,
  className = '',
  onFiles,
  children,
}: Pick<FilePickerProps, 'label' | 'folder' | 'onFiles'> & { className?: string; children: ReactNode }) => (
  <FilePicker label={label} folder={folder} onFiles={onFiles}>
    {(open) => (
      <Button className={className} onClick={open}>
        {children}
      </Button>
    )}
  </FilePicker>
);

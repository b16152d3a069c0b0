import { FileInput } from 'lucide-react';
import { useRef } from 'react';
import { Button } from '../ui/controls';
import { textFiles } from './readText';

/** A button that asks for a file with a text. */
export function TextFileButton({ onFile }: { onFile(file: File): void }) {
  const picker = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button
        title="With times (SRT, WebVTT, ASS, JSON, CSV) or without (txt, md, docx), for the whole recording"
        onClick={() => picker.current?.click()}
      >
        <FileInput size={15} aria-hidden /> Bring in a text
      </Button>
      <input
        ref={picker}
        type="file"
        hidden
        accept={textFiles}
        aria-label="Timed or plain text"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onFile(file);
          event.target.value = '';
        }}
      />
    </>
  );
}

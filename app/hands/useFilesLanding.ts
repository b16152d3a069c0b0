import { dropTargetForExternal, monitorForExternal } from '@atlaskit/pragmatic-drag-and-drop/external/adapter';
import { containsFiles } from '@atlaskit/pragmatic-drag-and-drop/external/file';
import { preventUnhandled } from '@atlaskit/pragmatic-drag-and-drop/prevent-unhandled';
import { useEffect, useState, type RefObject } from 'react';
import { droppedFiles, type FoundFile } from '../footage/dropped';
import { useLatest } from '../ui/useLatest';

/** Files that are let go where nothing takes them do nothing; a browser would open them in place of the screen. */
export function useNoStrayFiles(): void {
  useEffect(
    () =>
      monitorForExternal({
        canMonitor: containsFiles,
        onDragStart: () => preventUnhandled.start(),
        onDrop: () => preventUnhandled.stop(),
      }),
    [],
  );
}

/**
 * Files and folders of the machine that are let go over an element.
 * @returns what of the element files are over, as `placeOf` names it; null while none are
 */
export function useFilesLanding<Place extends string>(
  room: RefObject<HTMLElement | null>,
  onFiles: (files: FoundFile[], place: Place) => void,
  placeOf: (under: Element | null) => Place,
): Place | null {
  const [over, setOver] = useState<Place | null>(null);
  const latest = useLatest({ onFiles, placeOf });
  useEffect(() => {
    const element = room.current;
    if (!element) return;
    const placeAt = ({ clientX, clientY }: { clientX: number; clientY: number }) =>
      latest.current.placeOf(document.elementFromPoint(clientX, clientY));
    return dropTargetForExternal({
      element,
      canDrop: containsFiles,
      getDropEffect: () => 'copy',
      onDrag: ({ location }) => setOver(placeAt(location.current.input)),
      onDragLeave: () => setOver(null),
      onDrop: ({ source, location }) => {
        setOver(null);
        const place = placeAt(location.current.input);
        void droppedFiles(source.items).then((files) => latest.current.onFiles(files, place));
      },
    });
  }, [room, latest]);
  return over;
}

import { FileLink } from '../history/FileLink';

/** What stays where it is, said before. */
export const ArchiveNote = () => (
  <p className="mt-6 text-xs text-muted">
    The project as one file does not hold finished files, links with their comments, nor your own presets. “Set markers”
    in a reel’s Viewing puts open comments into the reel.
  </p>
);

/** The whole project as one file that another installation opens. */
export const ProjectArchive = ({ address }: { address: string }) => (
  <span className="text-muted">
    The whole project as one file:{' '}
    <FileLink className="underline hover:text-text" href={`${address}?media`}>
      with the footage
    </FileLink>
    ,{' '}
    <FileLink className="underline hover:text-text" href={address}>
      without it
    </FileLink>
  </span>
);

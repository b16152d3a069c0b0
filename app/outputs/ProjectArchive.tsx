import { FileLink } from '../history/FileLink';

/** The whole project as one file that another installation opens, and what does not go along. */
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
    . Finished files, links with their comments and own presets stay here.
  </span>
);

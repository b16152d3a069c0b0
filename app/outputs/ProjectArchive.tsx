import { FileLink } from '../history/FileLink';

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

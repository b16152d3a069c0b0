import { formatDay } from '#core/sentences';
import { Columns2, Download } from 'lucide-react';
import { useState } from 'react';
import type { LinkData, LinkVersion } from '#usecases/viewingLink';
import { Button, inputLook } from '../ui/controls';
import { useKept } from '../ui/useKept';
import { linkWords } from './words';

interface LinkHeadProps {
  shown: LinkData;
  version: LinkVersion;
  beside: LinkVersion | null;
  path: string;
  onLook(key: 'version' | 'beside', number: number | null): void;
  onSend(fields: Record<string, string>): void;
}

/** Name, versions, and what can be done with the one that is shown. */
export function LinkHead({ shown, version, beside, path, onLook, onSend }: LinkHeadProps) {
  const { name, versions, endsAt, mayDownload } = shown;
  const others = versions.filter(({ id, state }) => id !== version.id && state === 'ready');
  return (
    <header className="flex min-h-14 flex-wrap items-center gap-x-4 gap-y-2 px-4 py-2">
      <h1 className="text-lg font-semibold">{name}</h1>
      {versions.length > 1 ? (
        <VersionField
          label={linkWords.ofVersions(version.number, versions.length)}
          versions={versions}
          value={version.number}
          onChange={(number) => onLook('version', number)}
        />
      ) : (
        <span className="text-muted">{linkWords.version(version.number)}</span>
      )}
      {version.note && versions.length === 1 && <span className="text-muted">{version.note}</span>}
      {others.length > 0 && (
        <>
          <Button
            aria-pressed={beside !== null}
            className={`pointer-coarse:!h-11 ${beside ? 'bg-line' : ''}`}
            onClick={() => onLook('beside', beside ? null : others.at(-1)!.number)}
          >
            <Columns2 size={15} aria-hidden /> {linkWords.compare}
          </Button>
          {beside && others.length > 1 && (
            <VersionField
              label={linkWords.compareWith}
              versions={others}
              value={beside.number}
              onChange={(number) => onLook('beside', number)}
            />
          )}
        </>
      )}
      <span className="ml-auto" />
      {endsAt && (
        <span className="text-muted" suppressHydrationWarning>
          {linkWords.until(formatDay(endsAt))}
        </span>
      )}
      {mayDownload && version.state === 'ready' && (
        <a
          className="inline-flex h-[30px] items-center gap-2 rounded-md border border-line px-3 hover:bg-line/60 pointer-coarse:h-11"
          href={`${path}/film/${version.id}?download`}
        >
          <Download size={15} aria-hidden /> {linkWords.download}
        </a>
      )}
      <ApprovePart key={version.id} version={version} onSend={onSend} />
    </header>
  );
}

interface VersionFieldProps {
  label: string;
  versions: readonly LinkVersion[];
  value: number;
  onChange(number: number): void;
}

/** A native list: on a phone that is the one people know. */
function VersionField({ label, versions, value, onChange }: VersionFieldProps) {
  return (
    <select
      aria-label={label}
      className={`${inputLook} pointer-coarse:!h-11`}
      value={value}
      onChange={(event) => onChange(Number(event.target.value))}
    >
      {versions.map(({ id, number, note }) => (
        <option key={id} value={number}>
          {linkWords.version(number)}
          {note && `: ${note}`}
        </option>
      ))}
    </select>
  );
}

/** Who approved a version; and the button for it, which asks for a name where none is known. */
function ApprovePart({ version, onSend }: { version: LinkVersion; onSend(fields: Record<string, string>): void }) {
  const [name, setName] = useKept('name of a visitor');
  const [asks, setAsks] = useState(false);
  const approvedByMe = version.approvals.some(({ isOwn }) => isOwn);
  const approve = () => {
    if (!name.trim()) return setAsks(true);
    onSend({ intent: 'approve', version: version.id, name: name.trim() });
    setAsks(false);
  };
  return (
    <>
      {version.approvals.length > 0 && (
        <span className="text-speech">{linkWords.approvedBy(version.approvals.map((each) => each.name))}</span>
      )}
      {approvedByMe ? (
        <Button
          look="quiet"
          className="pointer-coarse:!h-11"
          onClick={() => onSend({ intent: 'disapprove', version: version.id, name: name.trim() || '-' })}
        >
          {linkWords.takeApprovalBack}
        </Button>
      ) : (
        version.state === 'ready' && (
          <form
            className="flex items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              approve();
            }}
          >
            {asks && (
              <input
                aria-label={linkWords.name}
                placeholder={linkWords.name}
                autoComplete="name"
                autoFocus
                maxLength={60}
                value={name}
                onChange={(event) => setName(event.target.value)}
                className={`${inputLook} w-36 pointer-coarse:!h-11`}
              />
            )}
            <Button type="submit" className="pointer-coarse:!h-11">
              {linkWords.approve(version.number)}
            </Button>
          </form>
        )
      )}
    </>
  );
}

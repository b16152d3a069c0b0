import type { AnchorHTMLAttributes, MouseEvent } from 'react';
import { afterSaving } from './saveQueue';

/** A link to a file that the server makes of what is seen; it waits until that is saved. */
export function FileLink({
  href,
  onClick,
  children,
  ...props
}: AnchorHTMLAttributes<HTMLAnchorElement> & { href: string }) {
  const fetchFile = (event: MouseEvent<HTMLAnchorElement>) => {
    onClick?.(event);
    event.preventDefault();
    void afterSaving(() => {
      const link = document.createElement('a');
      Object.assign(link, { href, download: '' });
      link.click();
    });
  };
  return (
    <a {...props} href={href} download onClick={fetchFile}>
      {children}
    </a>
  );
}

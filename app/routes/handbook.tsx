import { data, NavLink } from 'react-router';
import { handbookContents, handbookPage } from '../handbook/pages.server';
import type { Route } from './+types/handbook';

export function loader({ params }: Route.LoaderArgs) {
  const page = handbookPage(params.page);
  if (!page) throw data('There is no such page in the handbook.', { status: 404 });
  return { ...page, contents: handbookContents };
}

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: loaderData ? `${loaderData.title} · Bright Reel` : 'Bright Reel' },
];

/** What there is to know about each place, beside the place itself. */
export default function Handbook({ loaderData: { html, contents } }: Route.ComponentProps) {
  const look = ({ isActive }: { isActive: boolean }) =>
    `block rounded px-2 py-1 pointer-coarse:py-3 ${isActive ? 'bg-raised text-text' : 'text-muted hover:text-text'}`;
  return (
    <div className="mx-auto flex max-w-5xl gap-10 px-6 py-8 max-md:flex-col">
      <nav aria-label="Handbook" className="w-44 shrink-0 md:sticky md:top-8 md:self-start">
        <NavLink to="/handbook" end className={look}>
          Handbook
        </NavLink>
        {contents.map(({ name, title }) => (
          <NavLink key={name} to={`/handbook/${name}`} className={look}>
            {title}
          </NavLink>
        ))}
        <NavLink to="/" className={look}>
          All projects
        </NavLink>
      </nav>
      {/* Made of our own texts when the application was built. */}
      <main className="handbook min-w-0 flex-1 text-base" dangerouslySetInnerHTML={{ __html: html }} />
    </div>
  );
}

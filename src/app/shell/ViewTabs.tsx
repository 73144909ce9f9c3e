import { NavLink } from 'react-router';
import { viewClass } from './tabs';

/** The views of one job or place, where there are several. */
export function ViewTabs({ label, tabs }: { label: string; tabs: readonly { title: string; to: string }[] }) {
  if (tabs.length < 2) return null;
  return (
    <nav aria-label={label} className="flex flex-wrap gap-x-1 border-b border-line px-4 py-1 print:hidden max-sm:px-2">
      {tabs.map(({ title, to }) => (
        <NavLink key={to} to={to} className={({ isActive }) => viewClass(isActive)}>
          {title}
        </NavLink>
      ))}
    </nav>
  );
}

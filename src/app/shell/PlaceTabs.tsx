import { NavLink } from 'react-router';
import { useWorld } from '../world/world';
import { viewClass } from './tabs';
import { PLACES, viewsAt, type Place } from './views';

/** The views of one place of the header, where there are several. */
export function PlaceTabs({ place }: { place: Place }) {
  const { basePath } = useWorld();
  const views = viewsAt(place);
  if (place === 'instruments' || views.length < 2) return null;
  return (
    <nav aria-label={PLACES[place]} className="flex gap-1 border-b border-line px-4 py-1 print:hidden">
      {views.map((v) => (
        <NavLink key={v.path} to={`${basePath}/${v.path}`} className={({ isActive }) => viewClass(isActive)}>
          {v.title}
        </NavLink>
      ))}
    </nav>
  );
}

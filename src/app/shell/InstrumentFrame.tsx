import { lazy, useEffect } from 'react';
import { Link, Navigate, useLocation, useNavigate, useParams } from 'react-router';
import { KEYS } from '../keys/table';
import { usePedal } from '../keys/usePedal';
import { VIEW_ID } from '../parts/focus';
import { endWalk, onWalk, useWalk } from '../world/walk';
import { useWorld } from '../world/world';
import { inHand, takeInHand } from './in-hand';
import { Rack } from './Rack';
import { ViewScreen } from './ViewScreen';
import { ViewTabs } from './ViewTabs';
import { tabClass } from './tabs';
import { TAB_GROUPS, pathTo, viewsAt, viewsFor, viewsOf, type InstrumentViewLine, type TabGroup } from './views';

const FirstScreen = lazy(() => import('../views/first/FirstView').then((m) => ({ default: m.FirstView })));

/** The frame of all views of one instrument: the rack, the name of the one in hand, its jobs, and the views of the one in hand. */
export function InstrumentFrame({ view }: { view: InstrumentViewLine }) {
  const { instrumentId } = useParams();
  const { bench, basePath, world } = useWorld();
  const navigate = useNavigate();
  const { instruments } = bench;
  const index = instruments.findIndex((i) => i.record.instrumentId === instrumentId);
  const life = instruments[index];
  useEffect(() => {
    if (instrumentId) takeInHand(world, instrumentId);
  }, [world, instrumentId]);
  const came: unknown = useLocation().state;
  const walk = useWalk(world);
  const stands = onWalk(walk, instrumentId ?? '');
  const turnTo = (by: number) => {
    const ids = stands ? walk!.ids : instruments.map((i) => i.record.instrumentId);
    const at = stands ? stands.at : index;
    const nextId = ids[(at + by + ids.length) % ids.length];
    const next = instruments.find((i) => i.record.instrumentId === nextId);
    if (next) void navigate(pathTo(basePath, view, next));
  };
  const another = (by: number) => {
    if (!life) return;
    const own = viewsOf(life);
    const next = own[(own.indexOf(view) + by + own.length) % own.length];
    if (next) void navigate(pathTo(basePath, next, life));
  };
  usePedal(KEYS.general, {
    map: undefined,
    want: undefined,
    instrument: (_, key) => turnTo(key === '.' ? 1 : -1),
    view: (shift) => another(shift ? -1 : 1),
  });
  const first = instruments[0];
  if (!first) return <FirstScreen />;
  if (!instrumentId) {
    const before = instruments.find((i) => i.record.instrumentId === inHand(world)) ?? first;
    return <Navigate to={pathTo(basePath, view, before)} state={came} replace />;
  }
  if (!life)
    return (
      <section className="p-8">
        <h1 className="text-2xl font-bold">This instrument is not on the bench</h1>
        <p className="py-3">It may have been put away, or the address is another device’s.</p>
        <Link to={`${basePath}/bench`} className="text-deep underline underline-offset-4">
          To the bench
        </Link>
      </section>
    );
  const unfit = view.unfit?.(life);
  const ofJob = viewsFor(life, view.job).map((v) => ({ title: v.title, to: pathTo(basePath, v, life) }));
  // Comparing treatments is about several instruments, and asked for at one.
  const compared = view.job === 'stability' ? viewsAt('instruments').filter((v) => v.path === 'trial') : [];
  const tabs = [...ofJob, ...compared.map((v) => ({ title: v.title, to: `${basePath}/${v.path}` }))];
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[188px_minmax(0,1fr)] max-lg:grid-cols-[minmax(0,1fr)] max-lg:grid-rows-[auto_minmax(0,1fr)] print:block">
      <title>{`${view.title}, ${life.record.name} · Slow Anchor`}</title>
      <Rack current={life} view={view} />
      <div className="flex min-h-0 min-w-0 flex-col">
        {stands && (
          <p className="flex flex-wrap items-center gap-x-4 bg-water px-4 py-1 text-sm text-ink print:hidden">
            <span data-testid="walk">
              Walk: {stands.at + 1} of {stands.of}
              {stands.nextId &&
                `, then ${instruments.find((i) => i.record.instrumentId === stands.nextId)?.record.name ?? 'one that is gone'}`}
            </span>
            {stands.nextId && (
              <button type="button" className="underline underline-offset-4" onClick={() => turnTo(1)}>
                Next instrument (.)
              </button>
            )}
            <button type="button" className="underline underline-offset-4" onClick={() => endWalk(world)}>
              End the walk
            </button>
          </p>
        )}
        <div className="flex items-baseline gap-x-5 border-b border-line px-4 pt-2 max-md:flex-wrap">
          <h1 className="truncate pb-1 text-xl font-bold max-sm:text-lg">{life.record.name}</h1>
          {life.tuning && (
            <span className="max-w-48 truncate text-sm text-ink2 max-2xl:hidden">{life.tuning.name}</span>
          )}
          <nav aria-label={`Jobs for ${life.record.name}`} className="flex min-w-0 flex-wrap gap-x-1 print:hidden">
            {(Object.keys(TAB_GROUPS) as TabGroup[]).map((job) => {
              const [first] = viewsFor(life, job);
              return (
                first && (
                  <Link
                    key={job}
                    to={pathTo(basePath, first, life)}
                    className={tabClass(job === view.job)}
                    aria-current={job === view.job ? 'true' : undefined}
                  >
                    {TAB_GROUPS[job]}
                  </Link>
                )
              );
            })}
          </nav>
        </div>
        <ViewTabs label={TAB_GROUPS[view.job]} tabs={tabs} />
        {unfit === undefined ? (
          <ViewScreen view={view} life={life} />
        ) : (
          <p id={VIEW_ID} tabIndex={-1} className="max-w-xl p-8">
            {unfit}
          </p>
        )}
      </div>
    </div>
  );
}

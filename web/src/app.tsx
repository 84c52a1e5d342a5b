import {
  BookOpen,
  ChartSpline,
  HelpCircle,
  NotebookText,
  Waves,
  Map as MapIcon,
  MapPin,
  Moon,
  Radar,
  Route as RouteIcon,
  Ruler,
  Sailboat,
  Smartphone,
  Sun,
} from 'lucide-react';
import { lazy, Suspense, useEffect, useState } from 'react';
import { Navigate, NavLink, Route, Routes, useLocation, useNavigate } from 'react-router';
import { useRunningTrips, useWaters } from './api/queries';
import { Deck } from './views/deck';
import { Dialog } from './parts/dialog';
import { KeyHelp } from './parts/key-help';
import { SignIn } from './parts/sign-in';
import { Strip } from './parts/strip';
import { UnitsFields } from './parts/units-fields';
import { Mark } from './parts/symbols';
import { Waiting } from './parts/waiting';
import { useRefused } from './state/signed-in';
import { setTheme, useTheme } from './state/theme';
import { BoatProvider } from './state/boat';
import { ImportingProvider } from './state/importing';
import { WaterProvider, WaterReady } from './state/water';
import { views } from './views/load';
import type { NextStep } from './views/waters/new-water';
import { useUnits } from './state/units';
import { app as msg } from './words';

// Map and charts are large: they come when a view needs them, the Deck never waits for them.
const Brief = lazy(() => views.brief().then((m) => ({ default: m.Brief })));
const ChartView = lazy(() => views.chart().then((m) => ({ default: m.ChartView })));
const Patterns = lazy(() => views.patterns().then((m) => ({ default: m.Patterns })));
const WatersView = lazy(() => views.waters().then((m) => ({ default: m.WatersView })));
const FirstStart = lazy(() => views.waters().then((m) => ({ default: m.FirstStart })));
const PhoneSheet = lazy(() => import('./parts/phone-sheet').then((m) => ({ default: m.PhoneSheet })));
const Forecast = lazy(() => views.forecast().then((m) => ({ default: m.ForecastView })));
const PlanView = lazy(() => views.plan().then((m) => ({ default: m.Plan })));
const BenchView = lazy(() => views.bench().then((m) => ({ default: m.Bench })));
const TripList = lazy(() => views.logbook().then((m) => ({ default: m.TripList })));
const Trip = lazy(() => views.logbook().then((m) => ({ default: m.Trip })));

const VIEWS = [
  { to: '/brief', name: msg('app.brief'), key: '1', icon: NotebookText },
  { to: '/chart', name: msg('app.chart'), key: '2', icon: MapIcon },
  { to: '/plan', name: msg('app.plan'), key: '8', icon: RouteIcon },
  { to: '/deck', name: msg('app.deck'), key: '3', icon: Sailboat },
  { to: '/patterns', name: msg('app.patterns'), key: '4', icon: ChartSpline },
  { to: '/forecast', name: msg('app.forecast'), key: '5', icon: MapPin },
  { to: '/bench', name: msg('app.bench'), key: '6', icon: Radar },
  { to: '/logbook', name: msg('app.logbook'), key: '7', icon: BookOpen },
];

/** Whether a key press belongs to a field and not to the application. */
const typing = (event: KeyboardEvent): boolean =>
  event.target instanceof HTMLElement && (event.target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName));

function Navigation({ onHelp, onPhone, onUnits }: { onHelp: () => void; onPhone: () => void; onUnits: () => void }) {
  const theme = useTheme();
  const other = theme === 'day' ? 'night' : 'day';
  const item =
    'flex flex-col items-center justify-center gap-0.5 text-[13px] text-mute max-md:min-w-0 max-md:flex-1 max-md:text-[11px] md:border-l-4 md:py-[7px] short:md:gap-0 short:md:py-0.5 short:md:text-[11px] border-transparent';
  return (
    <nav
      aria-label={msg('app.views')}
      className="flex bg-surface print:hidden max-md:order-last max-md:h-16 max-md:border-t md:w-[84px] short:md:w-[68px] md:flex-col md:border-r border-line"
    >
      <div className="grid h-16 place-items-center max-md:hidden short:hidden" title={msg('app.restlessShoal')}>
        <Mark />
      </div>
      {VIEWS.map(({ to, name, icon: Icon }) => (
        <NavLink
          key={to}
          to={to}
          className={({ isActive }) =>
            `${item} ${isActive ? '!border-act font-bold !text-ink bg-[color-mix(in_srgb,var(--act)_10%,transparent)] max-md:shadow-[inset_0_3px_0_var(--act)]' : ''}`
          }
        >
          <Icon size={22} aria-hidden />
          {name}
        </NavLink>
      ))}
      <div className="flex-1 max-md:hidden" />
      <NavLink to="/waters" className={({ isActive }) => `${item} max-md:!hidden short:!hidden ${isActive ? 'font-bold !text-ink' : ''}`}>
        <Waves size={22} aria-hidden />
        {msg('app.waters')}
      </NavLink>
      <button type="button" className={`${item} max-md:!hidden short:!hidden`} onClick={onPhone}>
        <Smartphone size={22} aria-hidden />
        {msg('app.phone')}
      </button>
      <button type="button" className={`${item} max-md:!hidden short:!hidden`} onClick={onUnits}>
        <Ruler size={22} aria-hidden />
        {msg('app.units')}
      </button>
      <button type="button" className={`${item} max-md:!hidden short:!hidden`} onClick={onHelp}>
        <HelpCircle size={22} aria-hidden />
        {msg('app.keys')}
      </button>
      <button type="button" className={`${item} max-md:!flex-none max-md:px-2`} onClick={() => setTheme(other)}>
        {other === 'night' ? <Moon size={22} aria-hidden /> : <Sun size={22} aria-hidden />}
        <span className="max-md:sr-only">{other === 'night' ? msg('app.night') : msg('app.day')}</span>
      </button>
    </nav>
  );
}

/** Says in the title of the page which view of which water it is. */
function useTitle(water: string | undefined): void {
  const { pathname } = useLocation();
  useEffect(() => {
    const view = VIEWS.find((v) => pathname.startsWith(v.to))?.name ?? (pathname.startsWith('/waters') ? msg('app.waters') : null);
    document.title = [view, water, msg('app.restlessShoal')].filter(Boolean).join(' · ');
  }, [pathname, water]);
}

/** The shell: rail (tabs on a phone), Strip, and the view. */
export function App() {
  const waters = useWaters();
  const [chosen, setChosen] = useState(() => localStorage.getItem('water'));
  const navigate = useNavigate();
  const { search, pathname } = useLocation();
  const onWaters = pathname.startsWith('/waters');
  const onTrips = /^\/logbook\/?$/.test(pathname);
  // A link names its water, and a reload of it comes back to that one.
  const named = new URLSearchParams(search).get('water');
  const linked = waters.data?.find((w) => w.name === named)?.id;
  useEffect(() => {
    if (!linked) return;
    localStorage.setItem('water', linked);
    setChosen(linked);
  }, [linked]);
  const [missing, setMissing] = useState<string | null>(null);
  useEffect(() => {
    if (waters.data && named && !linked) setMissing(named);
  }, [waters.data, named, linked]);
  const [help, setHelp] = useState(false);
  const [phone, setPhone] = useState(false);
  // Everything is drawn anew in other units.
  useUnits();
  const [units, setUnits] = useState(false);
  const refused = useRefused();
  const theme = useTheme();

  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      if (typing(event) || event.ctrlKey || event.metaKey || event.altKey) return;
      const view = VIEWS.find((v) => v.key === event.key);
      if (view) void navigate(view.to);
      else if (event.key === '?') setHelp(true);
      else if (event.key === 'n') setTheme(theme === 'day' ? 'night' : 'day');
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [navigate, theme]);

  const shown = waters.data?.find((w) => w.id === (linked ?? chosen)) ?? waters.data?.find((w) => !w.archived_at);
  useTitle(shown?.name);
  const [importInto, setImportInto] = useState<string | null>(null);
  // Asked for before anything else is shown; on the water it may wait, and what is marked waits with it.
  const [later, setLater] = useState(false);
  useEffect(() => setLater(false), [refused]);
  if (refused && !waters.data) return <SignIn />;
  const active = waters.data?.filter((w) => !w.archived_at) ?? [];
  const water = waters.data?.find((w) => w.id === (linked ?? chosen)) ?? active[0] ?? waters.data?.[0];
  const choose = (id: string): void => {
    localStorage.setItem('water', id);
    setChosen(id);
  };
  /** Goes to another water: what the address said of the one before is dropped. */
  const open = (id: string, to?: string): void => {
    choose(id);
    setMissing(null);
    void navigate(to ?? window.location.pathname);
  };
  const made = (id: string, next: NextStep | null): void => {
    const to = { draw: '/chart?tool=draw', drive: '/chart?tool=drive', import: '/chart', trip: '/deck' };
    open(id, next === null ? '/brief' : to[next]);
    if (next === 'import') setImportInto(id);
  };
  return (
    <ImportingProvider
      // What was imported is shown, also where the address names another water.
      onDone={(id) => (linked && linked !== id ? open(id) : choose(id))}
      into={waters.data?.find((w) => w.id === importInto)?.name ?? null}
      onTaken={() => setImportInto(null)}
    >
      <div className="flex h-full max-md:flex-col print:block print:h-auto">
        <Navigation onHelp={() => setHelp(true)} onPhone={() => setPhone(true)} onUnits={() => setUnits(true)} />
        <div className="flex min-h-0 min-w-0 flex-1 flex-col">
          {!waters.data ? (
            <Waiting what={msg('app.yourWaters')} failed={waters.error} />
          ) : !water ? (
            <Suspense fallback={<Waiting what={msg('app.theView')} failed={null} />}>
              <FirstStart onMade={made} />
            </Suspense>
          ) : (
            <WaterProvider key={water.id} id={water.id}>
              <WaterReady
                fallback={(failed) => (
                  <div
                    role={onWaters && failed ? 'alert' : undefined}
                    className="h-14 overflow-hidden border-b border-line bg-surface p-3 text-warn short:h-11"
                  >
                    {onWaters && failed?.message}
                  </div>
                )}
              >
                <Strip waters={active.some((w) => w.id === water.id) ? active : [water, ...active]} onChoose={open} />
              </WaterReady>
              {missing !== null && <MissingWater name={missing} shown={water.name} onClose={() => setMissing(null)} />}
              <TripElsewhere water={water.id} onOpen={(id) => open(id, '/deck')} />
              <main className="relative min-h-0 flex-1 print:overflow-visible">
                <Suspense fallback={<Waiting what={msg('app.theView')} failed={null} />}>
                  {/* Lists of all waters and all trips wait for none of them. */}
                  {onTrips && <TripList water={water.id} />}
                  {onWaters && <WatersView current={water.id} onOpen={(id) => open(id, '/brief')} onMade={made} />}
                </Suspense>
                <WaterReady fallback={(failed) => !onWaters && !onTrips && <Waiting what={water.name} failed={failed} />}>
                  <BoatProvider>
                    <Suspense fallback={<Waiting what={msg('app.theView')} failed={null} />}>
                      <Routes>
                        <Route path="/brief" element={<Brief />} />
                        <Route path="/chart" element={<ChartView />} />
                        <Route path="/deck" element={<Deck />} />
                        <Route path="/patterns" element={<Patterns />} />
                        <Route path="/forecast" element={<Forecast />} />
                        <Route path="/plan" element={<PlanView />} />
                        <Route path="/bench" element={<BenchView />} />
                        <Route path="/logbook" element={null} />
                        <Route path="/logbook/:trip/:page?" element={<Trip openWater={(id) => open(id)} />} />
                        <Route path="/waters" element={null} />
                        <Route path="*" element={<Navigate to="/brief" replace />} />
                      </Routes>
                    </Suspense>
                  </BoatProvider>
                </WaterReady>
              </main>
            </WaterProvider>
          )}
        </div>
        {refused && !later && (
          <Dialog title={msg('app.signedOut')} onClose={() => setLater(true)}>
            <SignIn />
          </Dialog>
        )}
        {phone && (
          <Suspense fallback={null}>
            <PhoneSheet onClose={() => setPhone(false)} />
          </Suspense>
        )}
        {units && (
          <Dialog title={msg('app.units')} onClose={() => setUnits(false)}>
            <p className="mb-3 text-mute">{msg('app.howThisDeviceIs')}</p>
            <UnitsFields />
          </Dialog>
        )}
        {help && <KeyHelp onClose={() => setHelp(false)} />}
      </div>
    </ImportingProvider>
  );
}

/** A link named a water that is not here: said, instead of showing another as if it were that one. */
function MissingWater({ name, shown, onClose }: { name: string; shown: string; onClose: () => void }) {
  return (
    <p role="alert" className="flex items-center justify-between gap-3 border-b border-line bg-surface px-3 py-1.5">
      <span>
        {msg('app.thereIsNoWater', { name })} <b>{shown}</b>.
      </span>
      <button type="button" className="btn touch-target px-3" onClick={onClose}>
        {msg('app.ok')}
      </button>
    </p>
  );
}

/** A trip that runs on another water than the one that is shown. */
function TripElsewhere({ water, onOpen }: { water: string; onOpen: (id: string) => void }) {
  const other = useRunningTrips().data?.find((t) => t.water_id !== water);
  if (!other) return null;
  return (
    <p role="status" className="flex items-center justify-between gap-3 border-b border-line bg-surface px-3 py-1">
      <span>
        {msg('app.aTripIsRunning')} <b>{other.water}</b>.
      </span>
      <button type="button" className="btn touch-target px-3" onClick={() => onOpen(other.water_id)}>
        {msg('app.goToIt')}
      </button>
    </p>
  );
}

import { ChartSpline, HelpCircle, NotebookText, Map as MapIcon, MapPin, Moon, Ruler, Sailboat, Smartphone, Sun } from 'lucide-react';
import { lazy, Suspense, useEffect, useState } from 'react';
import { Navigate, NavLink, Route, Routes, useNavigate } from 'react-router';
import { useWaters } from './api/queries';
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
import { ImportingProvider, useImporting } from './state/importing';
import { WaterProvider } from './state/water';

// Map and charts are large: they come when a view needs them, the Deck never waits for them.
const Brief = lazy(() => import('./views/brief').then((m) => ({ default: m.Brief })));
const ChartView = lazy(() => import('./views/chart').then((m) => ({ default: m.ChartView })));
const Patterns = lazy(() => import('./views/patterns').then((m) => ({ default: m.Patterns })));
const PhoneSheet = lazy(() => import('./parts/phone-sheet').then((m) => ({ default: m.PhoneSheet })));
const Forecast = lazy(() => import('./views/forecast').then((m) => ({ default: m.ForecastView })));

const VIEWS = [
  { to: '/brief', name: 'Brief', key: '1', icon: NotebookText },
  { to: '/chart', name: 'Chart', key: '2', icon: MapIcon },
  { to: '/deck', name: 'Deck', key: '3', icon: Sailboat },
  { to: '/patterns', name: 'Patterns', key: '4', icon: ChartSpline },
  { to: '/forecast', name: 'Forecast', key: '5', icon: MapPin },
];

/** Whether a key press belongs to a field and not to the application. */
const typing = (event: KeyboardEvent): boolean =>
  event.target instanceof HTMLElement && (event.target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName));

function Navigation({ onHelp, onPhone, onUnits }: { onHelp: () => void; onPhone: () => void; onUnits: () => void }) {
  const theme = useTheme();
  const other = theme === 'day' ? 'night' : 'day';
  const item =
    'flex flex-col items-center justify-center gap-0.5 text-[13px] text-mute max-md:flex-1 md:border-l-4 md:py-2.5 short:md:py-1 short:md:text-[11px] border-transparent';
  return (
    <nav
      aria-label="Views"
      className="flex bg-surface print:hidden max-md:order-last max-md:h-16 max-md:border-t md:w-[84px] short:md:w-[68px] md:flex-col md:border-r border-line"
    >
      <div className="grid h-16 place-items-center max-md:hidden short:hidden" title="Restless Shoal">
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
      <button type="button" className={`${item} max-md:!hidden short:!hidden`} onClick={onPhone}>
        <Smartphone size={22} aria-hidden />
        Phone
      </button>
      <button type="button" className={`${item} max-md:!hidden short:!hidden`} onClick={onUnits}>
        <Ruler size={22} aria-hidden />
        Units
      </button>
      <button type="button" className={`${item} max-md:!hidden short:!hidden`} onClick={onHelp}>
        <HelpCircle size={22} aria-hidden />
        Keys
      </button>
      <button type="button" className={item} onClick={() => setTheme(other)}>
        {other === 'night' ? <Moon size={22} aria-hidden /> : <Sun size={22} aria-hidden />}
        {other === 'night' ? 'Night' : 'Day'}
      </button>
    </nav>
  );
}

/** The shell: rail (tabs on a phone), Strip, and the view. */
export function App() {
  const waters = useWaters();
  const [chosen, setChosen] = useState(() => localStorage.getItem('water'));
  // A bookmarked view names its water.
  const [named] = useState(() => new URLSearchParams(window.location.search).get('water'));
  const bookmarked = waters.data?.find((w) => w.name === named)?.id;
  useEffect(() => {
    if (bookmarked) setChosen(bookmarked);
  }, [bookmarked]);
  const [help, setHelp] = useState(false);
  const [phone, setPhone] = useState(false);
  const [units, setUnits] = useState(false);
  const refused = useRefused();
  const navigate = useNavigate();
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

  // Asked for before anything else is shown; on the water it may wait, and what is marked waits with it.
  const [later, setLater] = useState(false);
  useEffect(() => setLater(false), [refused]);
  if (refused && !waters.data) return <SignIn />;
  const water = waters.data?.find((w) => w.id === chosen) ?? waters.data?.[0];
  const choose = (id: string): void => {
    localStorage.setItem('water', id);
    setChosen(id);
  };
  return (
    <ImportingProvider onDone={choose}>
      <div className="flex h-full max-md:flex-col print:block print:h-auto">
        <Navigation onHelp={() => setHelp(true)} onPhone={() => setPhone(true)} onUnits={() => setUnits(true)} />
        <div className="flex min-h-0 min-w-0 flex-1 flex-col">
          {!waters.data ? (
            <Waiting what="your waters" failed={waters.error} />
          ) : !water ? (
            <NoWater />
          ) : (
            <WaterProvider key={water.id} id={water.id} fallback={(failed) => <Waiting what={water.name} failed={failed} />}>
              <Strip waters={waters.data} onChoose={choose} />
              <BoatProvider>
                <main className="relative min-h-0 flex-1 print:overflow-visible">
                  <Suspense fallback={<Waiting what="the view" failed={null} />}>
                    <Routes>
                      <Route path="/brief" element={<Brief />} />
                      <Route path="/chart" element={<ChartView />} />
                      <Route path="/deck" element={<Deck />} />
                      <Route path="/patterns" element={<Patterns />} />
                      <Route path="/forecast" element={<Forecast />} />
                      <Route path="*" element={<Navigate to="/brief" replace />} />
                    </Routes>
                  </Suspense>
                </main>
              </BoatProvider>
            </WaterProvider>
          )}
        </div>
        {refused && !later && (
          <Dialog title="Signed out" onClose={() => setLater(true)}>
            <SignIn />
          </Dialog>
        )}
        {phone && (
          <Suspense fallback={null}>
            <PhoneSheet onClose={() => setPhone(false)} />
          </Suspense>
        )}
        {units && (
          <Dialog title="Units" onClose={() => setUnits(false)}>
            <p className="mb-3 text-mute">How this device is read. What is kept and sent stays in metres, °C and m/s.</p>
            <UnitsFields />
          </Dialog>
        )}
        {help && <KeyHelp onClose={() => setHelp(false)} />}
      </div>
    </ImportingProvider>
  );
}

function NoWater() {
  const bringIn = useImporting();
  return (
    <div className="m-auto max-w-lg p-6">
      <h1 className="text-2xl font-bold">No water yet</h1>
      <p className="mt-2 text-mute">
        Bring in what you have: soundings, an outline, trips and marks, as CSV, GPX, NMEA or GeoJSON files or a ZIP of them. The chart is
        made from them.
      </p>
      <button type="button" className="btn btn-primary touch-target mt-4" onClick={() => bringIn(null)}>
        Bring in files
      </button>
      <p className="mt-4 text-sm text-mute">Or by command, for a whole folder:</p>
      <pre className="mt-1 overflow-x-auto rounded-box border border-line bg-surface p-3 font-mono text-sm">
        ./shoal import --water "My lake" --create FOLDER
      </pre>
    </div>
  );
}

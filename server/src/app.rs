use std::{path::PathBuf, sync::Arc};

use sqlx::PgPool;
use tokio::sync::Semaphore;

use crate::{
    services::{
        book::Books,
        compute::ComputePool,
        flags::Flags,
        responses::ResponseCache,
        standing::{StandingCaches, Warmth},
    },
    weather::{WeatherSource, WeatherStation},
};

/// How this server runs.
#[derive(Debug, Clone, Default)]
pub struct Options {
    /// Folder of the built site.
    pub site: PathBuf,
    /// Whether cookies are only for HTTPS, and browsers are told to use nothing else.
    pub secure_cookies: bool,
    /// Whether whoever asks is named by the last entry of `X-Forwarded-For`, which a proxy in front writes.
    pub behind_proxy: bool,
    /// Whether the demo's people sign in with a button, and the weather comes from the stand-in where nobody typed it in.
    pub demo: bool,
}

/// What every request can reach.
#[derive(Clone)]
pub struct App {
    pub(crate) db: PgPool,
    pub(crate) books: Arc<Books>,
    pub(crate) caches: StandingCaches,
    /// Pages as they were sent.
    pub(crate) responses: Arc<ResponseCache>,
    /// Which barns are to be looked after ahead of the next page.
    pub(crate) warmth: Arc<Warmth>,
    /// Standings, plans of rides, and the judging of weeks.
    pub(crate) compute: ComputePool,
    /// Records of whole lives are read only so many at a time: each takes several connections for tenths of a second, and whoever asks for
    /// something small waits for none.
    pub(crate) record_reads: Arc<Semaphore>,
    /// Searches for a week.
    pub(crate) searches: ComputePool,
    pub(crate) options: Arc<Options>,
    pub(crate) weather: Option<Arc<dyn WeatherSource + Send + Sync>>,
    /// Passwords are costly to check on purpose; only so many at a time.
    pub(crate) password_checks: Arc<Semaphore>,
    /// The motors of the barns' flags.
    pub(crate) flags: Arc<Flags>,
}

impl App {
    /// The same for what is computed before anyone asks for it: it waits until nobody else does.
    pub(crate) fn ahead(&self) -> App {
        App { compute: self.compute.ahead(), ..self.clone() }
    }

    /// The same for what someone waits for.
    pub(crate) fn as_asked(&self) -> App {
        App { compute: self.compute.asked(), ..self.clone() }
    }

    /// An application over a database whose schema is up to date.
    pub fn new(db: PgPool, options: Options) -> App {
        let station = || Arc::new(WeatherStation { seed: 8020 }) as Arc<dyn WeatherSource + Send + Sync>;
        App {
            db,
            books: Arc::default(),
            caches: StandingCaches::default(),
            responses: Arc::default(),
            warmth: Arc::default(),
            compute: ComputePool::new("pages", std::thread::available_parallelism().map_or(2, usize::from), 64, 2),
            record_reads: Arc::new(Semaphore::new(2)),
            searches: ComputePool::new("searches", 1, 4, 6).for_searches(),
            weather: options.demo.then(station),
            options: Arc::new(options),
            password_checks: Arc::new(Semaphore::new(2)),
            flags: Arc::default(),
        }
    }
}

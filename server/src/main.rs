//! The command `cavesson`: the server, its demo, and the contracts that outside checks call.

use std::{
    net::SocketAddr,
    path::{Path, PathBuf},
    process::ExitCode,
};

use anyhow::Context;
use cavesson::{App, Options, cli, demo, http, listen, observe};
use cavesson_judge::{Descent, Family};
use clap::{Args, Parser, Subcommand};

/// What is computed of a horse is made of many small parts, on several threads at once: that is what this allocator is made for.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

#[derive(Parser)]
#[command(name = "cavesson", version, about = "Training log and second opinion for western performance horses")]
struct Cli {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Serve the application.
    Serve {
        /// URL of the PostgreSQL database.
        #[arg(long, env = "DATABASE_URL", hide_env_values = true)]
        database: String,
        /// Address to listen on.
        #[arg(long, default_value = "127.0.0.1:8020")]
        listen: SocketAddr,
        /// Folder of the built site.
        #[arg(long, default_value = "web/dist")]
        site: PathBuf,
        /// Load the demo barn if the database holds no barn.
        #[arg(long)]
        demo: bool,
        /// Mark cookies as only for HTTPS; set this behind a TLS proxy.
        #[arg(long)]
        secure_cookies: bool,
        /// Take the address of whoever asks from the last entry of X-Forwarded-For; set this behind a proxy that writes it.
        #[arg(long)]
        behind_proxy: bool,
        /// Address to give figures out on, for Prometheus, under /metrics; none where it is left out.
        #[arg(long)]
        metrics: Option<SocketAddr>,
        /// Write the log as JSON, a line each.
        #[arg(long)]
        json_log: bool,
    },
    /// Make a link by which a person sets a new password; their one-time codes are off afterwards.
    ResetPassword {
        /// URL of the PostgreSQL database.
        #[arg(long, env = "DATABASE_URL", hide_env_values = true)]
        database: String,
        /// The address that the person signs in with.
        email: String,
    },
    /// The barns of this installation.
    #[command(subcommand)]
    Barn(BarnCommand),
    /// Write a copy of everything to a file, and read it through.
    Backup {
        /// URL of the PostgreSQL database.
        #[arg(long, env = "DATABASE_URL", hide_env_values = true)]
        database: String,
        /// The file to write; it must not be there yet.
        to: PathBuf,
    },
    /// Restore a copy into an empty database.
    Restore {
        /// URL of the PostgreSQL database.
        #[arg(long, env = "DATABASE_URL", hide_env_values = true)]
        database: String,
        /// The copy to read.
        from: PathBuf,
    },
    /// Print the OpenAPI document of the server.
    Openapi,
    /// Read a log of horses from standard input; write what each owns and whether to advance.
    Decide,
    /// Read a week from standard input; write its rides, with what was left out and why.
    Plan,
    /// Read a set-up of barrels and a horse from standard input; write the path and the quickest run.
    Pattern,
    /// Read a figure's text, its ground and a horse from standard input; write where it goes, whether it fits and what it asks.
    Figure,
    /// Read a bit as it hangs (JSON) and say where it takes hold and what it makes of a hand's weight.
    Bit,
    /// Read a question about cattle (JSON): which cow for which horse, heading off, holding; write the answer.
    Cattle,
    /// Print how the calls do on a log whose truth is known, beside rules of thumb.
    Judge {
        /// The log, as `decide` reads it.
        log: PathBuf,
        /// The true states behind it.
        truth: PathBuf,
    },
    /// Print how the calls do on herds of simulated horses, kind by kind.
    Herds(Horses),
    /// Print how often what a forecast says comes true, on herds of simulated horses or on logs whose truth is known.
    Forecasts {
        #[command(flatten)]
        horses: Horses,
        /// A log and the truth behind it, in place of the herds; may be given again.
        #[arg(long, num_args = 2, value_names = ["LOG", "TRUTH"])]
        log: Vec<PathBuf>,
    },
    /// Print how often a change from ask to ask that the coach tells is there, on simulated rides.
    Trends {
        /// Rides of each kind.
        #[arg(long, default_value_t = 400)]
        rides: u32,
        /// What the rides are drawn from.
        #[arg(long, default_value_t = 11)]
        seed: u64,
    },
    /// Print how often the true cause of a fault is named first, on simulated horses with one hole each.
    Causes {
        /// Horses of each fault and hole.
        #[arg(long, default_value_t = 20)]
        horses: u32,
        /// What the horses are drawn from.
        #[arg(long, default_value_t = 11)]
        seed: u64,
    },
    /// Print how intake rides place simulated horses, beside three asks of everything.
    Intake {
        /// Horses.
        #[arg(long, default_value_t = 60)]
        horses: u64,
        /// What they are drawn from.
        #[arg(long, default_value_t = 7)]
        seed: u64,
    },
    /// Fit the settings of the model without each family in turn, and print how it does on the family left out.
    Fit {
        #[command(flatten)]
        horses: Horses,
        /// A log and the truth behind it, beside the herds; may be given again. Where there is one, only logs are left out.
        #[arg(long, num_args = 2, value_names = ["LOG", "TRUTH"])]
        log: Vec<PathBuf>,
        /// Times that each setting is tried.
        #[arg(long, default_value_t = 2)]
        sweeps: u32,
    },
    /// Print how lessons by the coach do on simulated horses, beside lessons of a fixed length.
    Lessons,
    /// Print how the two-rein's dates and the test for a brace do on simulated horses, beside the calendar.
    Roads,
    /// Print how drawing cows does against cows by turns and the slowest cow, on simulated horses.
    CattleDays,
    /// Drill simulated horses that guess, in a drawn order and in a fixed one; write a table.
    Drills(Horses),
    /// Print every text of the curriculum that ships, to be read aloud.
    Texts,
}

#[derive(Subcommand)]
enum BarnCommand {
    /// Add a barn, and print the link by which its first trainer comes in.
    Add {
        /// URL of the PostgreSQL database.
        #[arg(long, env = "DATABASE_URL", hide_env_values = true)]
        database: String,
        /// The name of the barn.
        name: String,
        /// The time zone that its days follow, such as America/Denver.
        #[arg(long)]
        time_zone: String,
        /// The name of its first trainer.
        #[arg(long)]
        trainer: String,
        /// The address that the trainer signs in with, here and in any other barn.
        #[arg(long)]
        email: String,
    },
    /// Print the barns, a line each.
    List {
        /// URL of the PostgreSQL database.
        #[arg(long, env = "DATABASE_URL", hide_env_values = true)]
        database: String,
    },
}

#[derive(Args)]
struct Horses {
    /// Horses of each kind.
    #[arg(long, default_value_t = 40)]
    horses: u32,
    /// What the herds are drawn from: the same seed, the same herds.
    #[arg(long, default_value_t = 11)]
    seed: u64,
}

fn main() -> ExitCode {
    match Cli::parse().command {
        Command::Decide => cli::run(cli::decide),
        Command::Plan => cli::run(cli::plan),
        Command::Pattern => cli::run(cli::pattern),
        Command::Figure => cli::run(cli::figure),
        Command::Bit => cli::run(cli::bit),
        Command::Cattle => cli::run(cli::cattle),
        Command::Judge { log, truth } => print(read_family(&log, &truth).map(|family| cli::judge(&family))),
        Command::Herds(Horses { horses, seed }) => print(Ok(cli::herds(horses, seed))),
        Command::Forecasts { horses, log } => print(read_families(&log).map(|families| {
            let families = if families.is_empty() { cli::kinds(horses.horses, horses.seed) } else { families };
            cli::forecasts(&families)
        })),
        Command::Causes { horses, seed } => print(Ok(cli::causes(horses, seed))),
        Command::Intake { horses, seed } => print(Ok(cli::intake(horses, seed))),
        Command::Trends { rides, seed } => print(Ok(cli::trends(rides, seed))),
        Command::Fit { horses, log, sweeps } => print(read_families(&log).map(|logs| fitted(&horses, logs, sweeps))),
        Command::Lessons => print(Ok(cli::lessons())),
        Command::Roads => print(Ok(cli::roads())),
        Command::CattleDays => print(Ok(cli::cattle_days())),
        Command::Drills(Horses { horses, seed }) => print(Ok(cli::drills(horses, seed))),
        Command::Texts => print(Ok(cli::texts())),
        Command::Openapi => print(http::openapi().to_pretty_json().map(|json| json + "\n").map_err(Into::into)),
        Command::Backup { database, to } => print(cli::backup(&database, &to)),
        Command::Restore { database, from } => print(cli::restore(&database, &from)),
        Command::ResetPassword { database, email } => print(reset_password(&database, &email)),
        Command::Barn(BarnCommand::Add { database, name, time_zone, trainer, email }) => {
            print(add_barn(&database, &http::NewBarn { name, time_zone, trainer, email }))
        }
        Command::Barn(BarnCommand::List { database }) => print(list_barns(&database)),
        Command::Serve { database, listen, site, demo, secure_cookies, behind_proxy, metrics, json_log } => {
            begin_log(json_log);
            match serve(&database, listen, metrics, Options { site, secure_cookies, behind_proxy, demo }) {
                Ok(()) => ExitCode::SUCCESS,
                Err(e) => complain(&e),
            }
        }
    }
}

fn print(text: anyhow::Result<String>) -> ExitCode {
    match text {
        Ok(text) => {
            print!("{text}");
            ExitCode::SUCCESS
        }
        Err(e) => complain(&e),
    }
}

fn read_family(log: &Path, truth: &Path) -> anyhow::Result<Family> {
    let read =
        |path: &Path| std::fs::read_to_string(path).with_context(|| format!("{} cannot be read", path.display()));
    let name = log.file_stem().unwrap_or_default().to_string_lossy();
    cli::family(&name, &read(log)?, &read(truth)?)
        .map_err(|problems| anyhow::anyhow!(problems.iter().map(ToString::to_string).collect::<Vec<_>>().join("\n")))
}

/// Logs and truths come in pairs.
fn read_families(paths: &[PathBuf]) -> anyhow::Result<Vec<Family>> {
    paths.as_chunks().0.iter().map(|[log, truth]| read_family(log, truth)).collect()
}

fn fitted(horses: &Horses, logs: Vec<Family>, sweeps: u32) -> String {
    let threads = std::thread::available_parallelism().map_or(1, std::num::NonZero::get);
    let logs_alone = logs.len();
    let families: Vec<Family> = logs.into_iter().chain(cli::kinds(horses.horses, horses.seed)).collect();
    let left_out: Vec<usize> = (0..if logs_alone == 0 { families.len() } else { logs_alone }).collect();
    cli::fit(&families, &left_out, Descent { sweeps, threads }, &mut |line| eprintln!("{line}"))
}

fn complain(error: &anyhow::Error) -> ExitCode {
    eprintln!("cavesson: {error:#}");
    ExitCode::FAILURE
}

#[tokio::main]
async fn reset_password(database: &str, email: &str) -> anyhow::Result<String> {
    let db = cavesson_store::open(database).await.context("the database cannot be used")?;
    let path = http::reset_link(&db, email).await?.with_context(|| format!("nobody signs in with {email}"))?;
    Ok(format!("Open this behind the address of the server within two days; it works once:\n{path}\n"))
}

#[tokio::main]
async fn add_barn(database: &str, new: &http::NewBarn) -> anyhow::Result<String> {
    let db = cavesson_store::open(database).await.context("the database cannot be used")?;
    let path = http::add_barn(&db, new).await.map_err(|problem| {
        let fields = problem.errors.iter().map(|e| format!("\n  {}: {}", e.field, e.detail));
        anyhow::anyhow!("the barn was not added: {}{}", problem.detail, fields.collect::<String>())
    })?;
    Ok(format!("Pass this on, behind the address of the server; it holds for two days and works once:\n{path}\n"))
}

#[tokio::main]
async fn list_barns(database: &str) -> anyhow::Result<String> {
    let db = cavesson_store::open(database).await.context("the database cannot be used")?;
    let barns = cavesson_store::barn::all(&db).await?;
    Ok(barns.iter().map(|b| format!("{}  {}  {}\n", b.id, b.time_zone, b.name)).collect())
}

fn begin_log(json: bool) {
    let filter = tracing_subscriber::EnvFilter::try_from_default_env().unwrap_or_else(|_| "info,sqlx=warn".into());
    let log = tracing_subscriber::fmt().with_env_filter(filter);
    if json { log.json().init() } else { log.init() }
}

#[tokio::main]
async fn serve(
    database: &str,
    listen: SocketAddr,
    metrics: Option<SocketAddr>,
    options: Options,
) -> anyhow::Result<()> {
    let db = cavesson_store::open(database).await.context("the database cannot be used")?;
    if let Some(address) = metrics {
        let figures = observe::figures(observe::gather()?, db.clone());
        let listener = tokio::net::TcpListener::bind(address).await.context("figures cannot be given out there")?;
        tokio::spawn(listen::serve(listener, figures, std::future::pending()));
    }
    let today = demo::today();
    if options.demo && !cavesson_store::barn::any(&db).await? {
        demo::load(&db, today).await.context("the demo barn could not be loaded")?;
    }
    cavesson_store::barn::redate_demo(&db, today).await?;
    let listener = tokio::net::TcpListener::bind(listen)
        .await
        .with_context(|| format!("cannot listen on {listen}; is something else there? another --port may be free"))?;
    tracing::info!("serving on http://{listen}");
    let app = App::new(db.clone(), options);
    let background = app.clone();
    tokio::spawn(async move {
        // The demo's week is planned from what the horses stand at.
        http::warm_up(&background).await;
        tokio::join!(http::keep_warm(background.clone()), keep_demo_today(background, db));
    });
    listen::serve(listener, http::app(app), stopped()).await;
    Ok(())
}

/// Moves the demo's rides along when midnight passes, so that today is never empty, and publishes its week.
async fn keep_demo_today(app: App, db: sqlx::PgPool) {
    loop {
        if let Err(error) = demo::publish_week(&app).await {
            tracing::warn!(%error, "the demo's week was not published");
        }
        tokio::time::sleep(std::time::Duration::from_secs(60)).await;
        if let Err(error) = cavesson_store::barn::redate_demo(&db, demo::today()).await {
            tracing::warn!(%error, "the demo was not moved along");
        }
    }
}

async fn stopped() {
    let terminate = async {
        if let Ok(mut signal) = tokio::signal::unix::signal(tokio::signal::unix::SignalKind::terminate()) {
            signal.recv().await;
        }
    };
    tokio::select! {
        _ = tokio::signal::ctrl_c() => {}
        () = terminate => {}
    }
}

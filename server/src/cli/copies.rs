//! Copies of a whole installation: written by `pg_dump`, read through before they count, and restored into an empty database.

use std::{
    ffi::OsStr,
    fs::{self, File},
    path::{Path, PathBuf},
    process::Command,
};

use anyhow::{Context, bail, ensure};
use sqlx::Row;
use url::Url;

/// What lasts for hours or days and lets people in: a copy that is restored later must not open doors that were closed meanwhile.
const NOT_COPIED: [&str; 4] = ["session", "account_link", "known_device", "sign_in_attempt"];

/// Writes a copy of a database to a file, whole or not at all, and reads it through. What it holds, in words.
///
/// # Errors
/// The database cannot be reached, the file cannot be written, or what was written cannot be read.
pub fn backup(database: &str, to: &Path) -> anyhow::Result<String> {
    ensure!(!to.exists(), "{} is there already; give another name", to.display());
    let mut part = to.as_os_str().to_owned();
    part.push(".part");
    let part = PathBuf::from(part);
    let mut dump = tool("pg_dump", database)?;
    dump.args(["--format=custom", "--no-owner", "--no-privileges"]).arg("--file").arg(&part);
    dump.args(NOT_COPIED.map(|table| format!("--exclude-table-data={table}")));
    let written = run(dump).and_then(|_| check(&part));
    let tables = match written {
        Ok(tables) => tables,
        Err(e) => {
            // Half a copy is worse than none.
            let _ = fs::remove_file(&part);
            return Err(e);
        }
    };
    File::open(&part).and_then(|f| f.sync_all()).with_context(|| format!("{} is not on the disk", part.display()))?;
    fs::rename(&part, to).with_context(|| format!("{} cannot be written", to.display()))?;
    let bytes = fs::metadata(to)?.len();
    Ok(format!("{}: {tables} tables, {bytes} bytes, read through\n", to.display()))
}

/// Restores a copy into a database that holds nothing, and brings its schema up to date. What came back, in words.
///
/// # Errors
/// The copy cannot be read, the database holds something, or something in the copy does not go in: then nothing was changed.
pub fn restore(database: &str, from: &Path) -> anyhow::Result<String> {
    check(from)?;
    let runtime = tokio::runtime::Runtime::new()?;
    let held = runtime.block_on(async {
        let db = sqlx::PgPool::connect(database).await.context("the database cannot be used")?;
        let held: i64 =
            sqlx::query_scalar("select count(*) from pg_tables where schemaname = 'public'").fetch_one(&db).await?;
        anyhow::Ok(held)
    })?;
    ensure!(held == 0, "the database holds {held} tables; restore into an empty one, so that nothing is overwritten");
    let mut back = tool("pg_restore", database)?;
    back.args(["--single-transaction", "--exit-on-error", "--no-owner", "--no-privileges"]);
    back.arg("--dbname").arg(database_name(database)?).arg(from);
    run(back)?;
    runtime.block_on(async {
        let db = cavesson_store::open(database).await.context("the schema cannot be brought up to date")?;
        let row = sqlx::query(
            "select (select count(*) from barn), (select count(*) from horse), (select count(*) from ride), (select count(*) from rep)",
        )
        .fetch_one(&db)
        .await?;
        let count = |n: usize| row.try_get::<i64, _>(n);
        Ok(format!(
            "restored: {} barns, {} horses, {} rides, {} asks. Everyone signs in again\n",
            count(0)?,
            count(1)?,
            count(2)?,
            count(3)?
        ))
    })
}

/// Reads a copy through to its end, as restoring it would. How many tables have rows in it.
fn check(copy: &Path) -> anyhow::Result<usize> {
    let mut read = Command::new(find("pg_restore")?);
    read.arg("--file=/dev/null").arg(copy);
    run(read).with_context(|| format!("{} is no copy that can be read", copy.display()))?;
    let mut list = Command::new(find("pg_restore")?);
    list.arg("--list").arg(copy);
    let list = run(list)?;
    let tables = list.lines().filter(|line| line.contains(" TABLE DATA ")).count();
    ensure!(list.contains(" TABLE DATA public barn "), "{} is a copy of something else", copy.display());
    Ok(tables)
}

/// A tool of PostgreSQL that works on a database. The password goes by the environment: arguments can be read by others.
fn tool(name: &str, database: &str) -> anyhow::Result<Command> {
    let url = Url::parse(database).context("the URL of the database cannot be read")?;
    let mut command = Command::new(find(name)?);
    let text = |part: &str| percent_encoding::percent_decode_str(part).decode_utf8_lossy().into_owned();
    command.env("PGHOST", url.host_str().unwrap_or("localhost")).env("PGPORT", url.port().unwrap_or(5432).to_string());
    command.env("PGUSER", text(url.username())).env("PGPASSWORD", text(url.password().unwrap_or_default()));
    command.env("PGDATABASE", database_name(database)?);
    Ok(command)
}

fn database_name(database: &str) -> anyhow::Result<String> {
    let url = Url::parse(database).context("the URL of the database cannot be read")?;
    Ok(url.path().trim_start_matches('/').to_owned())
}

/// Where a tool is: on the path, or where Debian's package puts it, the newest of them.
fn find(name: &str) -> anyhow::Result<PathBuf> {
    let on_path = std::env::var_os("PATH").unwrap_or_default();
    let places = std::env::split_paths(&on_path).map(|dir| dir.join(name)).find(|tool| tool.is_file());
    if let Some(tool) = places {
        return Ok(tool);
    }
    let versions = fs::read_dir("/usr/lib/postgresql").into_iter().flatten().flatten();
    let newest = versions
        .map(|dir| dir.path().join("bin").join(name))
        .filter(|tool| tool.is_file())
        .max_by_key(|tool| tool.iter().rev().nth(2).and_then(OsStr::to_str).and_then(|v| v.parse::<u32>().ok()));
    newest.with_context(|| format!("{name} is not here; install postgresql-client"))
}

fn run(mut command: Command) -> anyhow::Result<String> {
    let done = command.output().with_context(|| format!("{} cannot be run", command.get_program().display()))?;
    if !done.status.success() {
        bail!("{}", String::from_utf8_lossy(&done.stderr).trim());
    }
    Ok(String::from_utf8_lossy(&done.stdout).into_owned())
}

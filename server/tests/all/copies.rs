//! Copies of a whole installation: written, read through, restored row by row, and refused where they are broken.

use std::{fs, path::PathBuf};

use cavesson::{cli, demo};
use sqlx::{PgPool, Row};
use uuid::Uuid;

use crate::support::{first_barn, second_barn, today};

/// A name for a copy, gone with the test.
struct Copy(PathBuf);

impl Drop for Copy {
    fn drop(&mut self) {
        let _ = fs::remove_file(&self.0);
    }
}

fn copy() -> Copy {
    Copy(std::env::temp_dir().join(format!("cavesson-copy-{}", Uuid::new_v4())))
}

/// The URL of a database beside the tests' own.
fn url(name: &str) -> String {
    let base = std::env::var("DATABASE_URL").unwrap();
    format!("{}/{name}", base.rsplit_once('/').unwrap().0)
}

fn url_of(db: &PgPool) -> String {
    url(db.connect_options().get_database().unwrap())
}

/// Every row of every table, as text.
async fn rows(db: &PgPool) -> Vec<(String, Vec<String>)> {
    let tables: Vec<String> =
        sqlx::query_scalar("select tablename::text from pg_tables where schemaname = 'public' order by 1")
            .fetch_all(db)
            .await
            .unwrap();
    let mut all = vec![];
    for table in tables {
        let rows = sqlx::query(&format!("select t::text from \"{table}\" t order by 1")).fetch_all(db).await.unwrap();
        all.push((table, rows.iter().map(|r| r.get::<String, _>(0)).collect()));
    }
    all
}

async fn off_the_runtime<T: Send + 'static>(work: impl FnOnce() -> T + Send + 'static) -> T {
    tokio::task::spawn_blocking(work).await.unwrap()
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_restored_copy_has_every_row_and_lets_nobody_in_who_was_out(db: PgPool) {
    let ada = first_barn(&db).await;
    second_barn(&db, &ada).await;
    demo::load(&db, today()).await.unwrap();
    let (file, from) = (copy(), url_of(&db));
    let path = file.0.clone();
    let told = off_the_runtime(move || cli::backup(&from, &path).unwrap()).await;
    assert!(told.contains("read through"), "{told}");

    let name = format!("restored_{}", Uuid::new_v4().simple());
    sqlx::query(&format!("create database {name}")).execute(&db).await.unwrap();
    let (path, to) = (file.0.clone(), url(&name));
    let told = off_the_runtime(move || cli::restore(&to, &path).unwrap()).await;
    assert!(told.starts_with("restored: 3 barns, "), "{told}");
    let restored = PgPool::connect(&url(&name)).await.unwrap();
    let (mut expected, found) = (rows(&db).await, rows(&restored).await);
    for (table, rows) in &mut expected {
        if ["session", "account_link", "known_device", "sign_in_attempt"].contains(&table.as_str()) {
            rows.clear();
        }
    }
    let counts: Vec<_> = expected.iter().map(|(table, rows)| (table, rows.len())).collect();
    assert!(counts.iter().filter(|(_, n)| *n > 0).count() > 15, "{counts:?}");
    for (expected, found) in expected.iter().zip(&found) {
        assert!(expected == found, "{} differs: {} rows and {}", expected.0, expected.1.len(), found.1.len());
    }
    assert_eq!(expected.len(), found.len());

    // The planner knows what is in the tables, though autovacuum has not been there.
    let unknown: Vec<String> = sqlx::query_scalar(
        "select relname::text from pg_class
         where relkind = 'r' and relnamespace = 'public'::regnamespace and reltuples < 0 and pg_relation_size(oid) > 0",
    )
    .fetch_all(&restored)
    .await
    .unwrap();
    assert!(unknown.is_empty(), "never analyzed: {unknown:?}");

    // What goes on in it goes on from where it was: no number is given out twice.
    sqlx::query("insert into security_event (barn_id, what) select id, 'signed-in' from barn")
        .execute(&restored)
        .await
        .unwrap();
    let (path, to) = (file.0.clone(), url(&name));
    let again = off_the_runtime(move || cli::restore(&to, &path).unwrap_err().to_string()).await;
    assert!(again.contains("restore into an empty one"), "{again}");
    restored.close().await;
    sqlx::query(&format!("drop database {name} with (force)")).execute(&db).await.unwrap();
}

#[sqlx::test(migrator = "cavesson_store::MIGRATOR")]
async fn a_copy_that_is_cut_off_or_of_something_else_is_refused_and_changes_nothing(db: PgPool) {
    first_barn(&db).await;
    let (file, from) = (copy(), url_of(&db));
    let path = file.0.clone();
    let there = off_the_runtime(move || {
        cli::backup(&from, &path).unwrap();
        cli::backup(&from, &path).unwrap_err().to_string()
    })
    .await;
    assert!(there.contains("is there already"), "{there}");

    let whole = fs::read(&file.0).unwrap();
    let name = format!("restored_{}", Uuid::new_v4().simple());
    sqlx::query(&format!("create database {name}")).execute(&db).await.unwrap();
    for broken in [&whole[..whole.len() / 2], &whole[..40], b"not a copy at all", b""] {
        fs::write(&file.0, broken).unwrap();
        let (path, to) = (file.0.clone(), url(&name));
        let told = off_the_runtime(move || format!("{:#}", cli::restore(&to, &path).unwrap_err())).await;
        assert!(told.contains("no copy that can be read"), "{told}");
    }
    let to = PgPool::connect(&url(&name)).await.unwrap();
    assert!(rows(&to).await.is_empty());
    to.close().await;
    sqlx::query(&format!("drop database {name} with (force)")).execute(&db).await.unwrap();

    let (nowhere, path) = (url("no_such_database"), copy().0.clone());
    let kept = path.clone();
    off_the_runtime(move || cli::backup(&nowhere, &path).unwrap_err()).await;
    assert!(!kept.exists() && !kept.with_extension("part").exists(), "nothing is left of a copy that failed");
}

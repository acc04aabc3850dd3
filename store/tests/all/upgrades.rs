//! Databases of every schema that landed are brought to this one with what is in them, and no migration is edited after it landed.

use cavesson_core::load::GaitMinutes;
use cavesson_store::{
    MIGRATOR, Scope, account, horse,
    log::{
        evidence::{self, Of},
        ride,
    },
    person, week,
};
use chrono::NaiveDate;
use sqlx::{Executor, PgPool, migrate::Migrator};
use std::borrow::Cow;
use uuid::Uuid;

/// The checksum of each migration as it landed (SHA-384 of the file). A new one adds its line; a line never changes.
const LANDED: &str = include_str!("landed.txt");

/// What is put in as soon as there is a table for it, by the migration that makes the table.
const FILLED: [(i64, &str); 9] = [
    (
        1,
        "insert into barn (id, name, time_zone) values ('b0000000-0000-4000-8000-000000000000', 'Low Meadow', 'UTC');
         insert into person (barn_id, id, name, email, role, password_hash)
            values ('b0000000-0000-4000-8000-000000000000', 'a0000000-0000-4000-8000-000000000000', 'Ada', 'a@low.example', 'trainer', 'x');
         insert into session (token_hash, barn_id, person_id, csrf, expires_at)
            values ('\\x01', 'b0000000-0000-4000-8000-000000000000', 'a0000000-0000-4000-8000-000000000000', 'c', now() + interval '1 hour');
         insert into sign_in_failure (account) values ('a@low.example');
         insert into horse (barn_id, id, name) values
            ('b0000000-0000-4000-8000-000000000000', 'c0000000-0000-4000-8000-000000000001', 'Juniper'),
            ('b0000000-0000-4000-8000-000000000000', 'c0000000-0000-4000-8000-000000000002', 'JUNIPER');
         insert into ride (barn_id, id, horse_id, rider_id, ridden_on, place, state, entered, created_by)
            values ('b0000000-0000-4000-8000-000000000000', 'd0000000-0000-4000-8000-000000000000',
                    'c0000000-0000-4000-8000-000000000001', 'a0000000-0000-4000-8000-000000000000', '2026-03-02', 'arena', 'open', 'pen',
                    'a0000000-0000-4000-8000-000000000000');
         insert into ride_set (barn_id, id, ride_id, position, rung, gait, side)
            values ('b0000000-0000-4000-8000-000000000000', 'e0000000-0000-4000-8000-000000000000',
                    'd0000000-0000-4000-8000-000000000000', 0, 'S1', 'stand', 'left');
         insert into rep (barn_id, id, set_id, position, outcome, weight, logged_by)
            values ('b0000000-0000-4000-8000-000000000000', 'f0000000-0000-4000-8000-000000000000',
                    'e0000000-0000-4000-8000-000000000000', 0, 'gave', 'feather', 'a0000000-0000-4000-8000-000000000000');
         insert into standing (barn_id, horse_id, revision, as_of, made_with, body)
            values ('b0000000-0000-4000-8000-000000000000', 'c0000000-0000-4000-8000-000000000001', 1, '2026-03-02', 'old', '{}')",
    ),
    (
        2,
        "insert into finding (barn_id, id, horse_id, found_on, looked, found, made_by)
            values ('b0000000-0000-4000-8000-000000000000', gen_random_uuid(), 'c0000000-0000-4000-8000-000000000001', '2026-03-02', 'vet',
                    'sound', 'a0000000-0000-4000-8000-000000000000')",
    ),
    (
        3,
        "insert into gear (barn_id, id, horse_id, kind, name, mouthpiece, since)
            values ('b0000000-0000-4000-8000-000000000000', gen_random_uuid(), 'c0000000-0000-4000-8000-000000000001', 'bit', 'Ring',
                    'snaffle', '2026-03-01');
         update ride set minutes = '{\"walk\": 12, \"jog\": 8}'",
    ),
    (
        4,
        "insert into week_plan (barn_id, week_start, draft, published, made_by)
            values ('b0000000-0000-4000-8000-000000000000', '2026-03-02', '[]', '[]', 'a0000000-0000-4000-8000-000000000000')",
    ),
    (
        5,
        "insert into appointment (barn_id, id, kind, title, day, from_minute, to_minute, made_by)
            values ('b0000000-0000-4000-8000-000000000000', gen_random_uuid(), 'farrier', 'Shoes', '2026-03-03', 600, 660,
                    'a0000000-0000-4000-8000-000000000000')",
    ),
    (
        7,
        "insert into dropped_ride (barn_id, id, horse_id, rider_id, ridden_on, place, entered, note, signs, version, created_by)
            values ('b0000000-0000-4000-8000-000000000000', gen_random_uuid(), 'c0000000-0000-4000-8000-000000000001',
                    'a0000000-0000-4000-8000-000000000000', '2026-03-04', 'arena', 'pen', '', '{}', 1,
                    'a0000000-0000-4000-8000-000000000000')",
    ),
    (
        11,
        "insert into claim (barn_id, id, horse_id, step, said_by, said_on, made_by)
            values ('b0000000-0000-4000-8000-000000000000', gen_random_uuid(), 'c0000000-0000-4000-8000-000000000001', 'S1', 'seller',
                    '2026-03-01', 'a0000000-0000-4000-8000-000000000000')",
    ),
    (
        14,
        "insert into layoff (barn_id, id, horse_id, off_since, back_on, why, vet_agrees, made_by)
            values ('b0000000-0000-4000-8000-000000000000', gen_random_uuid(), 'c0000000-0000-4000-8000-000000000002', '2026-01-01',
                    '2026-03-01', 'rest', true, 'a0000000-0000-4000-8000-000000000000')",
    ),
    (
        15,
        "insert into ground (barn_id, id, name, place, surface)
            values ('b0000000-0000-4000-8000-000000000000', gen_random_uuid(), 'Big arena', 'arena', 'sand')",
    ),
];

/// The migrations up to a version, as the build that had them last ran them.
fn up_to(version: i64) -> Migrator {
    let migrations = MIGRATOR.iter().filter(|m| m.version <= version).cloned().collect::<Vec<_>>();
    Migrator { migrations: Cow::Owned(migrations), ..Migrator::DEFAULT }
}

#[sqlx::test(migrations = false)]
async fn a_database_of_every_schema_that_landed_comes_to_this_one_with_what_is_in_it(db: PgPool) {
    let newest = MIGRATOR.iter().map(|m| m.version).max().unwrap();
    for landed in 1..=newest {
        db.execute("drop schema public cascade; create schema public").await.unwrap();
        for version in 1..=landed {
            up_to(version).run(&db).await.unwrap();
            for (_, filled) in FILLED.iter().filter(|(made, _)| *made == version) {
                db.execute(*filled).await.unwrap_or_else(|e| panic!("at {version}: {e}"));
            }
        }
        MIGRATOR.run(&db).await.unwrap_or_else(|e| panic!("from {landed}: {e}"));
        assert!(cavesson_store::is_ready(&db).await.unwrap());
        holds(&db, landed).await;
    }
}

/// What was put in is read as it was, by what reads it today.
async fn holds(db: &PgPool, landed: i64) {
    let id =
        |letter: &str, n: u32| -> Uuid { format!("{letter}0000000-0000-4000-8000-00000000000{n}").parse().unwrap() };
    let scope = Scope::staff_of(id("b", 0), id("a", 0));
    let people = person::in_barn(db, &scope).await.unwrap();
    assert_eq!(people.iter().map(|p| p.can_sign_in).collect::<Vec<_>>(), [true], "from {landed}");
    let account = account::by_email(db, "A@low.example").await.unwrap().unwrap();
    assert_eq!((account.id, account.password_hash.as_deref()), (id("a", 0), Some("x")), "from {landed}");
    let names: Vec<_> = horse::in_work(db, &scope).await.unwrap().into_iter().map(|h| h.name).collect();
    assert_eq!(names, ["JUNIPER", "Juniper"], "two of one name stay, from {landed}");
    let ride = ride::get(db, &scope, id("d", 0)).await.unwrap().unwrap();
    assert_eq!(
        ride.minutes.map(GaitMinutes::from).map(GaitMinutes::total),
        (landed >= 3).then_some(20),
        "from {landed}"
    );
    let logged = evidence::reps(db, &scope, Of::Horses(&[id("c", 1)])).await.unwrap();
    assert_eq!(logged.len(), 1, "the rep is evidence, from {landed}");
    let monday: NaiveDate = "2026-03-02".parse().unwrap();
    assert_eq!(week::get(db, &scope, monday).await.unwrap().is_some(), landed >= 4, "from {landed}");
}

#[test]
fn no_migration_was_edited_after_it_landed() {
    let of = |m: &sqlx::migrate::Migration| {
        let sum: String = m.checksum.iter().map(|byte| format!("{byte:02x}")).collect();
        format!("{:04} {sum}", m.version)
    };
    let now: Vec<_> = MIGRATOR.iter().map(of).collect();
    assert_eq!(
        now,
        LANDED.lines().collect::<Vec<_>>(),
        "a migration that landed may have run anywhere: add a new one, and its line to landed.txt"
    );
}

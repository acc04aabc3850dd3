//! A browser's worth of HTTP over one connection that is kept, and the server as a process of its own.

use std::{
    path::Path,
    process::{Child, Command, Stdio},
    time::Duration,
};

use anyhow::{Context, bail, ensure};
use cavesson_store::session::{self, NewSession, SessionKind};
use sha2::{Digest, Sha256};
use sqlx::PgPool;
use tokio::{
    io::{AsyncBufReadExt, AsyncReadExt, AsyncWriteExt, BufStream},
    net::TcpStream,
    time::sleep,
};
use uuid::Uuid;

/// A signed-in person on one connection.
pub(crate) struct Client {
    stream: BufStream<TcpStream>,
    token: String,
}

/// What came back.
pub(crate) struct Response {
    pub(crate) status: u16,
    pub(crate) bytes: usize,
    pub(crate) body: Vec<u8>,
}

impl Client {
    /// Signs someone in and connects.
    pub(crate) async fn of(db: &PgPool, port: u16, (barn, person): (Uuid, Uuid)) -> anyhow::Result<Client> {
        let token = Uuid::new_v4().to_string();
        let new = NewSession {
            token_hash: &Sha256::digest(&token),
            barn,
            person,
            csrf: "bench",
            kind: SessionKind::BarnPhone,
            device: "bench",
        };
        session::open(db, &new).await?;
        Ok(Client { stream: connect(port).await?, token })
    }

    pub(crate) async fn get(&mut self, path: &str) -> anyhow::Result<Response> {
        self.send("GET", path, "").await
    }

    pub(crate) async fn put(&mut self, path: &str, body: &str) -> anyhow::Result<Response> {
        self.send("PUT", path, body).await
    }

    pub(crate) async fn send(&mut self, method: &str, path: &str, body: &str) -> anyhow::Result<Response> {
        let head = format!(
            "{method} {path} HTTP/1.1\r\nhost: 127.0.0.1\r\ncookie: cavesson_session={}\r\nx-csrf-token: bench\r\n\
             accept-encoding: gzip\r\ncontent-type: application/json\r\ncontent-length: {}\r\n\r\n",
            self.token,
            body.len()
        );
        self.stream.write_all(head.as_bytes()).await?;
        self.stream.write_all(body.as_bytes()).await?;
        self.stream.flush().await?;
        self.response().await.with_context(|| format!("{method} {path}"))
    }

    async fn response(&mut self) -> anyhow::Result<Response> {
        let status = self.line().await?;
        let status = status.split(' ').nth(1).and_then(|s| s.parse().ok()).context("no status")?;
        let (mut length, mut chunked) = (0, false);
        loop {
            let line = self.line().await?.to_lowercase();
            let Some((name, value)) = line.split_once(':') else { break };
            match name {
                "content-length" => length = value.trim().parse()?,
                "transfer-encoding" => chunked = value.contains("chunked"),
                _ => {}
            }
        }
        let mut body = vec![];
        while chunked {
            let size = usize::from_str_radix(self.line().await?.trim(), 16)?;
            self.read(&mut body, size).await?;
            self.line().await?;
            chunked = size > 0;
        }
        self.read(&mut body, length).await?;
        Ok(Response { status, bytes: body.len(), body })
    }

    async fn read(&mut self, body: &mut Vec<u8>, size: usize) -> anyhow::Result<()> {
        let from = body.len();
        body.resize(from + size, 0);
        self.stream.read_exact(&mut body[from..]).await?;
        Ok(())
    }

    async fn line(&mut self) -> anyhow::Result<String> {
        let mut line = String::new();
        ensure!(self.stream.read_line(&mut line).await? > 0, "the connection was closed");
        Ok(line.trim_end().to_owned())
    }
}

async fn connect(port: u16) -> anyhow::Result<BufStream<TcpStream>> {
    let stream = TcpStream::connect(("127.0.0.1", port)).await?;
    stream.set_nodelay(true)?;
    Ok(BufStream::new(stream))
}

/// A server on a database, as `./start` runs it.
pub(crate) struct Server {
    process: Child,
    pub(crate) port: u16,
}

/// What a process has taken so far.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Taken {
    /// Seconds of computing.
    pub(crate) cpu: f64,
    pub(crate) resident_mb: f64,
}

impl Server {
    pub(crate) async fn start(program: &Path, url: &str, port: u16) -> anyhow::Result<Server> {
        let process = Command::new(program)
            .args(["serve", "--site", "no-site", "--listen", &format!("127.0.0.1:{port}")])
            .env("DATABASE_URL", url)
            .env("RUST_LOG", "error")
            .stdout(Stdio::null())
            .spawn()
            .with_context(|| format!("{} does not start; build it first", program.display()))?;
        for _ in 0..300 {
            if connect(port).await.is_ok() {
                return Ok(Server { process, port });
            }
            sleep(Duration::from_millis(100)).await;
        }
        bail!("the server did not come up")
    }

    /// What it has taken since it was started.
    pub(crate) fn taken(&self) -> anyhow::Result<Taken> {
        let of = |file: &str| std::fs::read_to_string(format!("/proc/{}/{file}", self.process.id()));
        let stat = of("stat")?;
        let fields: Vec<&str> = stat.rsplit(')').next().unwrap_or_default().split_whitespace().collect();
        // Clock ticks of a hundredth of a second, as Linux counts them for every program.
        let ticks = |n: usize| fields.get(n).and_then(|f| f.parse::<f64>().ok()).unwrap_or_default();
        let status = of("status")?;
        let resident = status.lines().find_map(|l| l.strip_prefix("VmRSS:")).unwrap_or_default();
        let kb: f64 = resident.trim().trim_end_matches(" kB").parse().unwrap_or_default();
        Ok(Taken { cpu: (ticks(11) + ticks(12)) / 100.0, resident_mb: kb / 1024.0 })
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        drop(self.process.kill());
        drop(self.process.wait());
    }
}

//! Taking connections. What is sent slowly is not waited for for ever, there are only so many connections at a time, and the end has a
//! deadline.

use std::{future::Future, sync::Arc, time::Duration};

use axum::{Router, extract::Request};
use hyper::{body::Incoming, server::conn::http1, service::service_fn};
use hyper_util::{
    rt::{TokioIo, TokioTimer},
    server::graceful::GracefulShutdown,
};
use tokio::{net::TcpListener, sync::Semaphore};
use tower::ServiceExt;

use crate::auth::Peer;

/// Connections at a time. One more waits until another ends.
const MOST_CONNECTIONS: usize = 2_000;
/// So long a request line and its headers may take, and so long a connection stays open with no request on it.
const HEADERS: Duration = Duration::from_secs(20);
/// So long requests that are being answered are waited for at the end.
const DRAIN: Duration = Duration::from_secs(10);

/// Serves until `stop`, and then until what was begun is answered, ten seconds at most.
pub async fn serve(listener: TcpListener, app: Router, stop: impl Future<Output = ()>) {
    let open = Arc::new(Semaphore::new(MOST_CONNECTIONS));
    let graceful = GracefulShutdown::new();
    tokio::pin!(stop);
    loop {
        let Ok(slot) = Arc::clone(&open).acquire_owned().await else { break };
        let (stream, peer) = tokio::select! {
            accepted = listener.accept() => match accepted {
                Ok((stream, from)) => (stream, Peer(from)),
                Err(error) => {
                    // Out of file handles, or the other side was gone already.
                    tracing::warn!(%error, "a connection was not taken");
                    tokio::time::sleep(Duration::from_millis(50)).await;
                    continue;
                }
            },
            () = &mut stop => break,
        };
        let app = app.clone();
        let service = service_fn(move |mut request: Request<Incoming>| {
            request.extensions_mut().insert(peer);
            app.clone().oneshot(request.map(axum::body::Body::new))
        });
        let connection = http1::Builder::new()
            .timer(TokioTimer::new())
            .header_read_timeout(HEADERS)
            .serve_connection(TokioIo::new(stream), service);
        let connection = graceful.watch(connection);
        tokio::spawn(async move {
            let _slot = slot;
            if let Err(error) = connection.await {
                tracing::debug!(%error, "a connection ended");
            }
        });
    }
    drop(listener);
    if tokio::time::timeout(DRAIN, graceful.shutdown()).await.is_err() {
        tracing::warn!("some requests were not answered within {} s of the end", DRAIN.as_secs());
    }
}

//! Taking lines in: each has so long to say what it wants, there are only so many, and the end does not wait for ever.

use std::convert::Infallible;
use std::net::SocketAddr;
use std::pin::pin;
use std::sync::Arc;
use std::time::Duration;

use axum::Router;
use axum::body::Body;
use axum::extract::{ConnectInfo, Request};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Response};
use hyper::body::Incoming;
use hyper::server::conn::http1;
use hyper::service::service_fn;
use hyper_util::rt::{TokioIo, TokioTimer};
use hyper_util::server::graceful::GracefulShutdown;
use tokio::net::{TcpListener, TcpStream};
use tokio::sync::Semaphore;
use tower::ServiceExt;
use tower_http::timeout::TimeoutBody;

use crate::{AppState, app, jobs};

/// How long is waited for whom.
#[derive(Clone, Copy, Debug)]
pub struct Patience {
    /// For the head of a request, and for the next request on a line that stays open.
    pub head: Duration,
    /// For each next part of a body.
    pub body: Duration,
    /// For a request as a whole, until its answer begins.
    pub request: Duration,
    /// For those that are being answered when the server is told to stop.
    pub end: Duration,
    /// So many lines at once; whoever comes after waits for one that closes.
    pub lines: usize,
}

impl Default for Patience {
    fn default() -> Self {
        Self {
            head: Duration::from_secs(30),
            body: Duration::from_secs(30),
            // A photograph of 20 MB over a poor line.
            request: Duration::from_secs(300),
            end: Duration::from_secs(10),
            lines: 4096,
        }
    }
}

/// Serves on a listener until `stop` resolves, and until those that are being answered then have their answers, if that
/// does not take too long. A line that cannot be taken in is let go, and the next one waited for.
pub async fn serve(
    listener: TcpListener,
    state: AppState,
    patience: Patience,
    stop: impl Future<Output = ()> + Send + 'static,
) {
    let live = state.live.clone();
    let work = jobs::begin(&state);
    let app = app(state);
    let places = Arc::new(Semaphore::new(patience.lines));
    let open = GracefulShutdown::new();
    let mut stop = pin!(stop);
    loop {
        let next = async {
            // Nothing closes the places.
            let place = places.clone().acquire_owned().await.ok();
            (listener.accept().await, place)
        };
        let (accepted, place) = tokio::select! {
            next = next => next,
            () = &mut stop => break,
        };
        match accepted {
            Ok((stream, peer)) => {
                let line = open.watch(line(stream, peer, app.clone(), patience));
                tokio::spawn(async move {
                    // What goes wrong on a line is the line's own end.
                    let _ = line.await;
                    drop(place);
                });
            }
            Err(error) => {
                // Such as too many open files: the lines that close make room.
                tracing::warn!(%error, "a line cannot be taken in");
                tokio::time::sleep(Duration::from_millis(100)).await;
            }
        }
    }
    drop(listener);
    live.stop();
    // What was in hand is gone on with when this server, or another one, is there.
    drop(work);
    if tokio::time::timeout(patience.end, open.shutdown()).await.is_err() {
        tracing::warn!("some were still being answered when the server ended");
    }
}

/// One line: its requests one after another.
fn line(
    stream: TcpStream,
    peer: SocketAddr,
    app: Router,
    patience: Patience,
) -> impl hyper_util::server::graceful::GracefulConnection<Error = hyper::Error> {
    // A small answer goes out at once.
    let _ = stream.set_nodelay(true);
    let service = service_fn(move |request: Request<Incoming>| {
        let mut request = request.map(|body| Body::new(TimeoutBody::new(patience.body, body)));
        request.extensions_mut().insert(ConnectInfo(peer));
        let answer = app.clone().oneshot(request);
        async move {
            let answer = tokio::time::timeout(patience.request, answer).await;
            Ok::<Response, Infallible>(match answer {
                Ok(Ok(answer)) => answer,
                Err(_) => StatusCode::REQUEST_TIMEOUT.into_response(),
            })
        }
    });
    http1::Builder::new()
        .timer(TokioTimer::new())
        .header_read_timeout(patience.head)
        .serve_connection(TokioIo::new(stream), service)
}

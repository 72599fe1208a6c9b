//! The stand-in tape of the command line: speaks to the server as a real one would.

use std::io::BufRead;
use std::sync::mpsc::{Receiver, RecvTimeoutError, channel};
use std::time::Duration;

use serde_json::json;
use yardwand_core::{Length, Style, Unit};

/// Between two words of the tape.
const BEAT: Duration = Duration::from_millis(200);
/// How long a word may take.
const PATIENCE: Duration = Duration::from_secs(2);

type Done = Result<(), Box<dyn std::error::Error + Send + Sync>>;

/// A digital tape that is not there.
#[derive(Debug)]
pub struct StandInTape {
    agent: ureq::Agent,
    address: String,
    token: String,
    unit: Unit,
    jitter: f64,
    /// The length pulled, in millimetres.
    pulled: f64,
    connected: bool,
    /// Seed of the trembling.
    seed: u64,
}

impl StandInTape {
    /// A tape paired by `token`; `jitter` in millimetres.
    ///
    /// # Errors
    ///
    /// A unit that is neither inch nor cm.
    pub fn new(
        server: &str,
        token: &str,
        unit: &str,
        jitter: f64,
    ) -> Result<Self, Box<dyn std::error::Error + Send + Sync>> {
        let unit = match unit {
            "inch" | "in" => Unit::Inch,
            "cm" => Unit::Cm,
            other => {
                return Err(format!("\u{201c}{other}\u{201d} is no unit of a tape: use inch or cm").into());
            }
        };
        let agent =
            ureq::Agent::config_builder().http_status_as_error(false).timeout_global(Some(PATIENCE)).build();
        Ok(Self {
            agent: agent.into(),
            address: format!("{}/api/tape", server.trim_end_matches('/')),
            token: token.to_owned(),
            unit,
            jitter,
            pulled: 900.0,
            connected: true,
            seed: 1,
        })
    }

    /// Speaks until the input ends or says `end`.
    ///
    /// # Errors
    ///
    /// Only where the server says that no session knows this tape; a lost line is tried again.
    pub fn run(mut self, input: impl BufRead) -> Done {
        let (tell, told) = channel();
        // Lines are read to their end here: the beat below must not wait for them.
        std::thread::scope(|scope| {
            let listening = scope.spawn(move || self.beat(&told));
            for line in input.lines().map_while(Result::ok) {
                let end = line.trim() == "end";
                if tell.send(line).is_err() || end {
                    break;
                }
            }
            drop(tell);
            listening.join().unwrap_or_else(|_| Err("the tape broke".into()))
        })
    }

    fn beat(&mut self, told: &Receiver<String>) -> Done {
        loop {
            match told.recv_timeout(BEAT) {
                Err(RecvTimeoutError::Timeout) => self.speak(false)?,
                Err(RecvTimeoutError::Disconnected) => return Ok(()),
                Ok(line) => match line.trim() {
                    "end" => return Ok(()),
                    "drop" => self.connected = false,
                    "back" => self.connected = true,
                    "" => self.speak(true)?,
                    text => match Length::read(text, self.unit) {
                        Ok(entered) => {
                            self.pulled = entered.length.mm();
                            self.speak(false)?;
                        }
                        Err(error) => eprintln!("{error}"),
                    },
                },
            }
        }
    }

    fn speak(&mut self, held: bool) -> Done {
        if !self.connected {
            return Ok(());
        }
        let mm = (self.pulled + self.tremble()).max(0.0);
        let style = if self.unit == Unit::Inch { Style::EIGHTHS } else { Style::TENTHS };
        let text = style.write(Length::from_mm(mm));
        let word = json!({ "text": text, "unit": self.unit, "held": held });
        let said = self
            .agent
            .post(&self.address)
            .header("authorization", format!("Bearer {}", self.token))
            .send_json(word);
        match said {
            Ok(answer) if answer.status() == 404 => Err("no session knows this tape: pair it again".into()),
            Ok(_) => {
                println!("{text} {}{}", self.unit.suffix(), if held { "  held" } else { "" });
                Ok(())
            }
            // A tape goes on trying.
            Err(error) => {
                eprintln!("not connected ({error}): trying again");
                Ok(())
            }
        }
    }

    /// Between minus and plus the jitter; a plain linear congruence is random enough for a hand.
    fn tremble(&mut self) -> f64 {
        self.seed = self.seed.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        let share = (self.seed >> 33) as f64 / f64::from(1_u32 << 31);
        (share * 2.0 - 1.0) * self.jitter
    }
}

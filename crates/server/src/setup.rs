//! Setting a house up from the command line, and letting somebody in again who has lost every other way.

use std::io::{self, BufRead, IsTerminal, Write};

use yardwand_core::Style;
use yardwand_store::{House, Role, Store};

use crate::passwords::{can_be_chosen, hash_password};
use crate::upkeep::Said;
use crate::views::{email, words};

/// Asks somebody at a terminal, or reads the answers a line each from a script.
struct Asking {
    at_a_terminal: bool,
}

impl Asking {
    fn begin() -> Self {
        Self { at_a_terminal: io::stdin().is_terminal() }
    }

    fn line() -> Said<String> {
        let mut line = String::new();
        if io::stdin().lock().read_line(&mut line)? == 0 {
            return Err("the answers ended too early: give one line for each question".into());
        }
        Ok(line.trim().to_owned())
    }

    /// Asks until the answer is good; a script has one try.
    fn until<T>(&self, question: &str, secret: bool, good: impl Fn(&str) -> Result<T, String>) -> Said<T> {
        loop {
            if self.at_a_terminal {
                print!("{question} ");
                io::stdout().flush()?;
            }
            let answer = match (secret, self.at_a_terminal) {
                (true, true) => rpassword::read_password()?,
                _ => Self::line()?,
            };
            match good(&answer) {
                Ok(good) => return Ok(good),
                Err(says) if self.at_a_terminal => println!("  {says}"),
                Err(says) => return Err(says.into()),
            }
        }
    }

    /// A password, twice at a terminal: nobody sees what is typed there.
    fn password(&self, own: &[&str]) -> Said<String> {
        let question = "Password (at least twelve characters, four words do well):";
        loop {
            let password = self.until(question, true, |text| match can_be_chosen(text, own) {
                Ok(()) => Ok(text.to_owned()),
                Err(says) => Err(says.to_owned()),
            })?;
            if !self.at_a_terminal || self.until("Once more:", true, |text| Ok(text == password))? {
                return Ok(password);
            }
            println!("  the two differ: type it again");
        }
    }
}

/// A name on one line, checked as it is on a page.
///
/// # Errors
///
/// A sentence with the way out.
pub fn good_name(text: &str) -> Result<String, String> {
    words("/name", "The name", text, 120).map_err(|error| error.to_string())
}

/// An address to sign in with, checked as it is on a page.
///
/// # Errors
///
/// A sentence with the way out.
pub fn good_address(text: &str) -> Result<String, String> {
    email("/email", text).map_err(|error| error.to_string())
}

fn unit(text: &str) -> Result<Style, String> {
    match text.trim().to_lowercase().as_str() {
        "" | "inch" | "inches" => Ok(Style::EIGHTHS),
        "cm" | "centimetres" => Ok(Style::TENTHS),
        other => Err(format!("“{other}” is neither: write inch or cm")),
    }
}

/// Makes the first owner of an empty house and asks for its name and its unit.
///
/// # Errors
///
/// There is somebody in this house already, or the answers are none.
pub async fn set_up(store: &Store) -> Said<String> {
    store.migrate().await?;
    if !store.people().await?.is_empty() {
        return Err("somebody is in this house already, and nothing was changed: its owner asks others in on the page \
                    “People of the house”; `yardwand password` gives a new password to somebody who has lost theirs"
            .into());
    }
    let asking = Asking::begin();
    let name = asking.until("Name of the house:", false, good_name)?;
    let style = asking.until("Lengths are written in inch or cm [inch]:", false, unit)?;
    let owner = asking.until("Your own name:", false, good_name)?;
    let email = asking.until("The e-mail address you sign in with:", false, good_address)?;
    let password = asking.password(&[&owner, &email, &name])?;
    let id = store.add_person(&owner, &email, &hash_password(&password)?, Role::Owner).await?;
    let house = House { name, style, ..store.house().await? };
    store.change_house(&house, id).await?;
    Ok(format!("{} is ready: {owner} signs in as {email}.\n", house.name))
}

/// Gives somebody a new password, which is enough to sign in with; every sign-in of theirs ends. For the owner who has lost hers:
/// whoever can do this has the machine and its database in hand anyway.
///
/// # Errors
///
/// Nobody signs in with this address.
pub async fn new_password(store: &Store, email: &str) -> Said<String> {
    let email = email.trim().to_lowercase();
    let nobody = || format!("nobody in this house signs in with {email}");
    let (person, _) = store.person_by_email(&email).await?.ok_or_else(nobody)?;
    let password = Asking::begin().password(&[&person.name, &email])?;
    // Every sign-in ends: the one that is kept is nobody's.
    store.change_password(person.id, &hash_password(&password)?, &[0; 32]).await?;
    let mut said =
        format!("{} signs in with the new password; every earlier sign-in has ended.\n", person.name);
    if store.end_second_factor(person.id, person.id).await? {
        said += "The second step is taken away: it can be set up again on the page of one's own sign-in.\n";
    }
    Ok(said)
}

//! A house that has worked for many years, for measuring: everything in it is invented and made by the database itself.
//!
//! It copies what a few clients of a filled demo have (a session with its readings, a garment with its pattern and a round) as often as
//! is asked, each a little different. What it is not: a house somebody could read; every hundredth name comes again.

/// Sessions of a client.
const SESSIONS: u32 = 4;
/// Readings of a session.
const READINGS: u32 = 25;
/// Garments of a client.
const GARMENTS: u32 = 2;
/// So many clients share one garment in hand: nobody sews for all who ever came.
const CLIENTS_FOR_ONE_IN_HAND: u32 = 125;

const FIRST_NAMES: &str = "'Adela','Berit','Celia','Dagny','Elin','Frida','Greta','Hedda','Ingrid','Jorunn','Kaja','Lovise','Maren','Nora','Oda','Petra','Ragna','Signe','Tuva','Ylva','Élise','Zoë','Åse','Solveig','Thea'";
const LAST_NAMES: &str = "'Aldridge','Brekke','Castellan','Dorn','Egeland','Fairfax','Grove','Hartvig','Ivers','Jessop','Kverne','Lindqvist','Moe','Nygård','Oakes','Pell','Quist','Rowan','Strand','Tveit','Ulven','Vance','Wilder','Yates','Zander','Bøe','Carr','Dunmore','Ekwall','Foss','Gale','Heide','Innes','Juell','Keller','Lund','Marsh','Næss','Orr','Penrose'";
const GARMENT_NAMES: &str = "'Concert dress','Black wool dress','Velvet jacket','Tail coat bodice','Silk blouse','Evening skirt','Wedding bodice','Linen dress'";

/// The statements that make a filled demo a house of so many clients, with four sessions of 25 readings and two garments each. The demo
/// in it stays as it is.
pub fn large_house(clients: u32) -> String {
    let in_hand = (clients / CLIENTS_FOR_ONE_IN_HAND).max(1);
    format!(
        "SET foreign_key_checks = 0, unique_checks = 0, @people = (SELECT MIN(id) FROM people);
         SET @client = (SELECT MAX(id) FROM clients), @session = (SELECT MAX(id) FROM sessions),
             @order = (SELECT MAX(id) FROM orders), @pattern = (SELECT MAX(id) FROM patterns),
             @round = (SELECT MAX(id) FROM rounds), @version = (SELECT MAX(id) FROM pattern_versions);
         SET @measured = (SELECT s.id FROM sessions s JOIN readings r ON r.session_id = s.id
             WHERE s.closed_at IS NOT NULL AND r.replaced_by IS NULL GROUP BY s.id ORDER BY COUNT(DISTINCT r.code) DESC, s.id LIMIT 1);
         SET @fitted = (SELECT r.order_id FROM rounds r JOIN patterns p ON p.order_id = r.order_id AND p.in_hand
             JOIN observations b ON b.round_id = r.id WHERE r.number = 1 GROUP BY r.order_id ORDER BY COUNT(*) DESC, r.order_id LIMIT 1);
         CREATE TEMPORARY TABLE the_readings SELECT r.* FROM readings r WHERE r.session_id = @measured AND r.replaced_by IS NULL
             GROUP BY r.code ORDER BY r.id LIMIT {READINGS};

         INSERT INTO clients (id, name, contact, notes, created_at)
           SELECT @client + seq,
             CONCAT(ELT(1 + seq MOD 25, {FIRST_NAMES}), ' ', ELT(1 + (seq DIV 25) MOD 40, {LAST_NAMES})),
             CONCAT('0', 700000000 + seq * 7919 MOD 99999989),
             IF(seq MOD 3 = 0, CONCAT('Plays desk ', seq MOD 17, '; likes a high collar.'), ''),
             UTC_TIMESTAMP(3) - INTERVAL (seq MOD 5000) DAY
           FROM seq_1_to_{clients};
         INSERT INTO consents (client_id, given_on, purpose)
           SELECT id, DATE(created_at), 'To dress her.' FROM clients WHERE id > @client;
         INSERT INTO client_notes (client_id, words, written_by)
           SELECT id, CONCAT('Came with her sister in year ', id MOD 19, '.'), @people FROM clients WHERE id > @client AND id MOD 5 = 0;

         INSERT INTO sessions (id, client_id, set_code, set_name, codes, unit, foundation, measurer_id, started_at, closed_at)
           SELECT @session + (c.id - @client - 1) * {SESSIONS} + q.seq, c.id, s.set_code, s.set_name, s.codes, 'mm', '', s.measurer_id,
             c.created_at + INTERVAL q.seq HOUR, c.created_at + INTERVAL q.seq + 1 HOUR
           FROM clients c JOIN seq_1_to_{SESSIONS} q JOIN sessions s ON s.id = @measured WHERE c.id > @client
           ORDER BY c.id, q.seq;
         INSERT INTO readings (session_id, code, side, mm, typed, unit, taken_by, taken_at)
           SELECT s.id, r.code, r.side, ROUND(r.mm) + (s.id * 7 + r.id) MOD 9, CONCAT(ROUND(r.mm) + (s.id * 7 + r.id) MOD 9, ' mm'), 'mm',
             s.measurer_id, s.started_at
           FROM sessions s JOIN the_readings r WHERE s.id > @session ORDER BY s.id;

         INSERT INTO orders (id, client_id, garment, set_code, set_name, set_codes, wanted_on, toiles, created_at, finished_at)
           SELECT @order + (c.id - @client - 1) * {GARMENTS} + q.seq, c.id,
             ELT(1 + (c.id * 3 + q.seq) MOD 8, {GARMENT_NAMES}), o.set_code, o.set_name, o.set_codes,
             IF(c.id > @client + {clients} - {in_hand} AND q.seq = 1, CURRENT_DATE + INTERVAL 20 + c.id MOD 60 DAY,
                DATE(c.created_at) + INTERVAL 60 DAY),
             2, c.created_at,
             IF(c.id > @client + {clients} - {in_hand} AND q.seq = 1, NULL, c.created_at + INTERVAL 60 DAY)
           FROM clients c JOIN seq_1_to_{GARMENTS} q JOIN orders o ON o.id = @fitted WHERE c.id > @client
           ORDER BY c.id, q.seq;
         INSERT INTO visits (order_id, kind, number, on_day, settled)
           SELECT o.id, v.kind, v.number, o.wanted_on - INTERVAL v.before_it DAY, o.finished_at IS NOT NULL
           FROM orders o JOIN (SELECT 'toile' AS kind, 1 AS number, 30 AS before_it UNION SELECT 'toile', 2, 20
             UNION SELECT 'cloth_fitting', 1, 10 UNION SELECT 'delivery', 1, 0) v WHERE o.id > @order ORDER BY o.id;

         INSERT INTO patterns (order_id, block_id, block_name, block, recipe)
           SELECT o.id, p.block_id, p.block_name, p.block, p.recipe FROM orders o
           JOIN patterns p ON p.order_id = @fitted AND p.in_hand WHERE o.id > @order ORDER BY o.id;
         INSERT INTO pattern_versions (pattern_id, version, recipe, pattern, why, made_by)
           SELECT p.id, v.version, v.recipe, v.pattern, v.why, v.made_by FROM patterns p
           JOIN patterns f ON f.order_id = @fitted AND f.in_hand JOIN pattern_versions v ON v.pattern_id = f.id AND v.version = 1
           WHERE p.id > @pattern ORDER BY p.id;
         INSERT INTO rounds (order_id, number, stage, version_id, worn, comfort, postures, opened_by, opened_at)
           SELECT p.order_id, 1, 'toile', v.id, r.worn, r.comfort, r.postures, r.opened_by, o.created_at
           FROM pattern_versions v JOIN patterns p ON p.id = v.pattern_id JOIN orders o ON o.id = p.order_id
           JOIN rounds r ON r.order_id = @fitted AND r.number = 1 WHERE v.id > @version ORDER BY p.order_id;
         INSERT INTO observations (round_id, seen, made_by)
           SELECT r.id, b.seen, b.made_by FROM rounds r JOIN rounds f ON f.order_id = @fitted AND f.number = 1
           JOIN observations b ON b.round_id = f.id AND b.removed_at IS NULL WHERE r.id > @round ORDER BY r.id;
         INSERT INTO marks (observation_id, round_id, mark)
           SELECT b.id, b.round_id, 'same' FROM observations b WHERE b.round_id > @round AND b.id MOD 2 = 0;

         INSERT INTO audit (at, person_id, what, of_table, of_id, client_id)
           SELECT started_at, measurer_id, 'added', 'sessions', id, client_id FROM sessions WHERE id > @session;
         INSERT INTO audit (at, person_id, what, of_table, of_id, client_id, order_id)
           SELECT created_at, @people, 'added', 'orders', id, client_id, id FROM orders WHERE id > @order;
         SET foreign_key_checks = 1, unique_checks = 1;
         ANALYZE TABLE clients, consents, client_notes, sessions, readings, orders, visits, patterns, pattern_versions, rounds, observations, marks, audit;"
    )
}

-- A file brought in looks for the clients it has added, once for each of their days.
ALTER TABLE clients ADD KEY IF NOT EXISTS clients_import (import_id);

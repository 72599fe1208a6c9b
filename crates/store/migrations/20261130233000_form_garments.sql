-- A garment that is fitted on a dress form hangs on a stand-in for a client: the form itself, which is no client in any list.
ALTER TABLE clients ADD COLUMN IF NOT EXISTS form_id BIGINT UNSIGNED NULL;
ALTER TABLE clients ADD UNIQUE INDEX IF NOT EXISTS clients_form (form_id);
ALTER TABLE clients ADD CONSTRAINT clients_is_form FOREIGN KEY IF NOT EXISTS (form_id) REFERENCES forms (id);

CREATE TABLE port (
  code TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  zone INTEGER NOT NULL CHECK (zone BETWEEN 1 AND 5)
) WITHOUT ROWID;

CREATE TABLE vessel (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE,
  capacity INTEGER NOT NULL,
  home_port TEXT NOT NULL REFERENCES port (code),
  master_id INTEGER REFERENCES crew (id)
);

CREATE TABLE crew (
  id INTEGER PRIMARY KEY,
  vessel_id INTEGER REFERENCES vessel (id),
  given_name TEXT NOT NULL,
  family_name TEXT NOT NULL,
  email TEXT NOT NULL UNIQUE COLLATE NOCASE,
  phone TEXT,
  birth_date DATE NOT NULL,
  rank TEXT NOT NULL
);

CREATE INDEX crew_vessel ON crew (vessel_id);

CREATE TABLE passenger (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  given_name VARCHAR(40) NOT NULL,
  family_name VARCHAR(60) NOT NULL,
  email VARCHAR(120) UNIQUE,
  phone VARCHAR(30),
  birth_date DATE,
  guardian_id INTEGER REFERENCES passenger (id),
  home_port TEXT REFERENCES port (code)
);

CREATE INDEX passenger_name ON passenger (family_name, given_name);

CREATE TABLE sailing (
  id INTEGER PRIMARY KEY,
  vessel_id INTEGER NOT NULL REFERENCES vessel (id),
  from_port TEXT NOT NULL REFERENCES port (code),
  to_port TEXT NOT NULL REFERENCES port (code),
  departs_at TIMESTAMP NOT NULL,
  CHECK (from_port <> to_port)
);

CREATE TABLE booking (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  reference CHAR(8) NOT NULL UNIQUE,
  passenger_id INTEGER NOT NULL REFERENCES passenger (id),
  booked_at TIMESTAMP NOT NULL,
  amount_cents INTEGER NOT NULL CHECK (amount_cents > 0),
  channel TEXT
);

CREATE INDEX booking_passenger ON booking (passenger_id);

CREATE TABLE ticket (
  booking_id INTEGER NOT NULL REFERENCES booking (id),
  no INTEGER NOT NULL,
  sailing_id INTEGER NOT NULL REFERENCES sailing (id),
  passenger_id INTEGER NOT NULL REFERENCES passenger (id),
  seat TEXT,
  PRIMARY KEY (booking_id, no)
) WITHOUT ROWID;

CREATE INDEX ticket_sailing ON ticket (sailing_id);

CREATE TABLE newsletter (
  email TEXT NOT NULL,
  full_name TEXT,
  since DATE NOT NULL
);

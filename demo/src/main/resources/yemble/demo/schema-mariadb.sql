CREATE TABLE port (
  code VARCHAR(60) PRIMARY KEY,
  name VARCHAR(60) NOT NULL,
  zone INTEGER NOT NULL CHECK (zone BETWEEN 1 AND 5)
);

CREATE TABLE route (
  id INTEGER PRIMARY KEY,
  from_port VARCHAR(60) NOT NULL REFERENCES port (code),
  to_port VARCHAR(60) NOT NULL REFERENCES port (code),
  minutes INTEGER NOT NULL CHECK (minutes > 0),
  UNIQUE (from_port, to_port),
  CHECK (from_port <> to_port)
);

CREATE TABLE tariff (
  route_id INTEGER NOT NULL REFERENCES route (id),
  category ENUM('adult', 'child', 'car', 'van', 'bike') NOT NULL,
  cents INTEGER NOT NULL,
  PRIMARY KEY (route_id, category)
);

CREATE TABLE vessel (
  id INTEGER PRIMARY KEY,
  name VARCHAR(60) NOT NULL UNIQUE,
  capacity INTEGER NOT NULL,
  home_port VARCHAR(60) NOT NULL REFERENCES port (code),
  master_id INTEGER REFERENCES crew (id) -- and crew belong to a vessel: a cycle
);

CREATE TABLE crew (
  id INTEGER PRIMARY KEY,
  vessel_id INTEGER REFERENCES vessel (id),
  gvn_nm TEXT NOT NULL,
  fam_nm TEXT NOT NULL,
  sex CHAR(1) CHECK (sex IN ('F', 'M', 'X')),
  work_email VARCHAR(120) NOT NULL COLLATE utf8mb4_unicode_ci UNIQUE,
  phone TEXT,
  dob DATE NOT NULL,
  national_id TEXT,
  salary_iban TEXT,
  rank TEXT NOT NULL,
  hired_on DATE NOT NULL,
  locker TEXT
);

CREATE INDEX crew_vessel ON crew (vessel_id);

CREATE TABLE certificate (
  crew_id INTEGER NOT NULL REFERENCES crew (id),
  kind VARCHAR(60) NOT NULL,
  issued_on DATE NOT NULL,
  expires_on DATE NOT NULL,
  PRIMARY KEY (crew_id, kind),
  CHECK (expires_on > issued_on)
);

CREATE TABLE sailing (
  id INTEGER PRIMARY KEY,
  route_id INTEGER NOT NULL REFERENCES route (id),
  vessel_id INTEGER NOT NULL REFERENCES vessel (id),
  departs_at DATETIME NOT NULL,
  state TEXT NOT NULL DEFAULT 'planned'
);

CREATE TABLE passenger (
  id INTEGER PRIMARY KEY AUTO_INCREMENT,
  given_name VARCHAR(40) NOT NULL,
  family_name VARCHAR(60) NOT NULL,
  gender CHAR(1),
  email VARCHAR(120) UNIQUE,
  phone VARCHAR(30),
  birth_date DATE,
  national_id VARCHAR(20),
  guardian_id INTEGER REFERENCES passenger (id),
  home_port VARCHAR(60) REFERENCES port (code),
  created_at DATETIME NOT NULL
);

CREATE INDEX passenger_name ON passenger (family_name, given_name);

CREATE INDEX passenger_guardian ON passenger (guardian_id);

CREATE TABLE passenger_address (
  id INTEGER PRIMARY KEY,
  passenger_id INTEGER NOT NULL REFERENCES passenger (id),
  street VARCHAR(80) NOT NULL,
  city VARCHAR(60) NOT NULL,
  postcode VARCHAR(10) NOT NULL,
  is_current BOOLEAN NOT NULL DEFAULT 1
);

CREATE INDEX address_passenger ON passenger_address (passenger_id);

CREATE TABLE companion (
  passenger_id INTEGER NOT NULL REFERENCES passenger (id),
  companion_id INTEGER NOT NULL REFERENCES passenger (id),
  relation TEXT,
  PRIMARY KEY (passenger_id, companion_id),
  CHECK (passenger_id <> companion_id)
);

CREATE TABLE booking (
  id INTEGER PRIMARY KEY AUTO_INCREMENT,
  reference CHAR(9) NOT NULL UNIQUE,
  passenger_id INTEGER NOT NULL REFERENCES passenger (id),
  booked_at DATETIME NOT NULL,
  amount_cents INTEGER NOT NULL CHECK (amount_cents > 0),
  channel TEXT,
  remark TEXT
);

CREATE INDEX booking_passenger ON booking (passenger_id);

CREATE TABLE leg (
  booking_id INTEGER NOT NULL REFERENCES booking (id),
  no INTEGER NOT NULL,
  sailing_id INTEGER NOT NULL REFERENCES sailing (id),
  PRIMARY KEY (booking_id, no)
);

CREATE TABLE ticket (
  id INTEGER PRIMARY KEY,
  booking_id INTEGER NOT NULL,
  leg INTEGER NOT NULL,
  passenger_id INTEGER NOT NULL REFERENCES passenger (id),
  seat TEXT,
  FOREIGN KEY (booking_id, leg) REFERENCES leg (booking_id, no)
);

CREATE INDEX ticket_leg ON ticket (booking_id, leg);

CREATE TABLE vehicle (
  plate VARCHAR(60) PRIMARY KEY, -- a natural key that is personal
  passenger_id INTEGER NOT NULL REFERENCES passenger (id),
  category VARCHAR(60) NOT NULL
);

CREATE INDEX vehicle_passenger ON vehicle (passenger_id);

CREATE TABLE vehicle_passage (
  id INTEGER PRIMARY KEY,
  plate VARCHAR(60) NOT NULL REFERENCES vehicle (plate),
  sailing_id INTEGER NOT NULL REFERENCES sailing (id),
  metres NUMERIC(4,1) NOT NULL
);

CREATE INDEX passage_plate ON vehicle_passage (plate);

CREATE TABLE luggage (
  id INTEGER PRIMARY KEY,
  booking_id INTEGER NOT NULL REFERENCES booking (id),
  tag VARCHAR(60) NOT NULL UNIQUE,
  kg DOUBLE
);

CREATE INDEX luggage_booking ON luggage (booking_id);

CREATE TABLE consignment (
  id INTEGER PRIMARY KEY,
  sender_email VARCHAR(120), -- a passenger's, though nothing declares it
  sender TEXT NOT NULL,
  recipient TEXT NOT NULL,
  recipient_phone TEXT,
  sailing_id INTEGER NOT NULL REFERENCES sailing (id),
  contents TEXT,
  value_cents INTEGER
);

CREATE INDEX consignment_sender ON consignment (sender_email);

CREATE TABLE payment (
  id INTEGER PRIMARY KEY,
  booking_id INTEGER NOT NULL REFERENCES booking (id),
  paid_at DATETIME NOT NULL,
  method TEXT NOT NULL CHECK (method IN ('card', 'transfer', 'cash')),
  payer TEXT,
  card_no VARCHAR(25),
  iban VARCHAR(40),
  cents INTEGER NOT NULL,
  CHECK (method <> 'card' OR card_no IS NOT NULL)
);

CREATE INDEX payment_booking ON payment (booking_id);

CREATE TABLE incident (
  id INTEGER PRIMARY KEY,
  sailing_id INTEGER NOT NULL REFERENCES sailing (id),
  reported_by INTEGER NOT NULL REFERENCES crew (id),
  severity INTEGER NOT NULL CHECK (severity BETWEEN 1 AND 4),
  summary TEXT NOT NULL
);

CREATE TABLE incident_person (
  incident_id INTEGER NOT NULL REFERENCES incident (id),
  passenger_id INTEGER NOT NULL REFERENCES passenger (id),
  part TEXT NOT NULL,
  PRIMARY KEY (incident_id, passenger_id)
);

CREATE TABLE note (
  id INTEGER PRIMARY KEY,
  subject CHAR(1) NOT NULL CHECK (subject IN ('P', 'B', 'I')), -- passenger, booking or incident
  subject_id INTEGER NOT NULL,
  written_by INTEGER REFERENCES crew (id),
  body TEXT NOT NULL
);

CREATE INDEX note_subject ON note (subject_id);

CREATE FULLTEXT INDEX note_words ON note (body);

CREATE TABLE loyalty_member (
  member_no VARCHAR(60) PRIMARY KEY,
  full_name TEXT NOT NULL,
  email TEXT,
  mobile TEXT,
  tier TEXT NOT NULL,
  joined_on DATE NOT NULL
);

CREATE TABLE loyalty_points (
  member_no VARCHAR(60) NOT NULL REFERENCES loyalty_member (member_no),
  seq INTEGER NOT NULL,
  points INTEGER NOT NULL,
  PRIMARY KEY (member_no, seq)
);

CREATE TABLE newsletter (
  email TEXT NOT NULL,
  name VARCHAR(60),
  since DATE NOT NULL
);

CREATE TABLE account (
  username VARCHAR(60) COLLATE utf8mb4_unicode_ci PRIMARY KEY,
  passenger_id INTEGER REFERENCES passenger (id),
  pwd_hash TEXT NOT NULL,
  last_login DATETIME
);

CREATE INDEX account_passenger ON account (passenger_id);

CREATE TABLE web_session (
  id INTEGER PRIMARY KEY,
  username VARCHAR(60) COLLATE utf8mb4_unicode_ci REFERENCES account (username),
  started_at DATETIME NOT NULL,
  data JSON NOT NULL
);

CREATE INDEX session_account ON web_session (username);

CREATE TABLE audit_log (
  id INTEGER PRIMARY KEY,
  at DATETIME NOT NULL,
  actor TEXT NOT NULL,
  action TEXT NOT NULL
);

CREATE VIEW upcoming AS
  SELECT s.id, r.from_port, r.to_port, s.departs_at, v.name AS vessel
  FROM sailing s JOIN route r ON r.id = s.route_id JOIN vessel v ON v.id = s.vessel_id
  WHERE s.state = 'planned';

CREATE TRIGGER booking_is_logged AFTER INSERT ON booking FOR EACH ROW
  INSERT INTO audit_log (id, at, actor, action)
    SELECT coalesce(max(id), 0) + 1, now(), 'trigger', concat('booking ', new.id) FROM audit_log;

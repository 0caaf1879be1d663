CREATE TABLE skf_accounts (
  id ${number},
  login ${name} NOT NULL UNIQUE,
  full_name ${name} NOT NULL,
  email ${name} NOT NULL
);
CREATE TABLE skf_pictures (
  id ${number},
  file ${name} NOT NULL UNIQUE,
  caption ${text} NOT NULL,
  width INT NOT NULL,
  height INT NOT NULL
);
CREATE TABLE skf_pages (
  id ${number},
  slug ${name} NOT NULL UNIQUE,
  title ${text} NOT NULL,
  body ${text} NOT NULL,
  status VARCHAR(12) NOT NULL,
  parent_id ${reference},
  picture_id ${reference},
  author_id ${reference} NOT NULL,
  FOREIGN KEY (parent_id) REFERENCES skf_pages (id),
  FOREIGN KEY (picture_id) REFERENCES skf_pictures (id),
  FOREIGN KEY (author_id) REFERENCES skf_accounts (id)
);
CREATE TABLE skf_menu_entries (
  id ${number},
  label ${name} NOT NULL,
  page_id ${reference} NOT NULL,
  position INT NOT NULL,
  FOREIGN KEY (page_id) REFERENCES skf_pages (id)
);
CREATE TABLE skf_harbours (
  id ${number},
  code VARCHAR(4) NOT NULL UNIQUE,
  name ${name} NOT NULL,
  guide ${text} NOT NULL,
  phone VARCHAR(30) NOT NULL
);
CREATE TABLE skf_routes (
  id ${number},
  from_id ${reference} NOT NULL,
  to_id ${reference} NOT NULL,
  minutes INT NOT NULL,
  bicycles INT NOT NULL,
  FOREIGN KEY (from_id) REFERENCES skf_harbours (id),
  FOREIGN KEY (to_id) REFERENCES skf_harbours (id)
);
CREATE TABLE skf_fares (
  route_id ${reference} NOT NULL,
  category VARCHAR(20) NOT NULL,
  price DECIMAL(8,2) NOT NULL,
  PRIMARY KEY (route_id, category),
  FOREIGN KEY (route_id) REFERENCES skf_routes (id)
);
CREATE TABLE skf_sailings (
  id ${number},
  route_id ${reference} NOT NULL,
  sails_on DATE NOT NULL,
  departs VARCHAR(5) NOT NULL,
  vessel ${name} NOT NULL,
  UNIQUE (route_id, sails_on, departs),
  FOREIGN KEY (route_id) REFERENCES skf_routes (id)
);
CREATE TABLE skf_settings (
  id ${number},
  name ${name} NOT NULL UNIQUE,
  value ${text} NOT NULL
);
CREATE TABLE skf_bookings (
  id ${number},
  sailing_id ${reference} NOT NULL,
  passenger ${name} NOT NULL,
  seats INT NOT NULL,
  booked_at DATETIME NOT NULL,
  FOREIGN KEY (sailing_id) REFERENCES skf_sailings (id)
);
CREATE TABLE skf_comments (
  id ${number},
  page_id ${reference} NOT NULL,
  author ${name} NOT NULL,
  body ${text} NOT NULL,
  written_at DATETIME NOT NULL,
  FOREIGN KEY (page_id) REFERENCES skf_pages (id)
);
CREATE TABLE skf_sessions (
  token VARCHAR(40) NOT NULL PRIMARY KEY,
  account_id ${reference} NOT NULL,
  data ${text} NOT NULL
);

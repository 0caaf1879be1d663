INSERT INTO skf_accounts (id, login, full_name, email) VALUES
  (4, 'liv', 'Liv Haugen', 'liv@skerrow.example');
INSERT INTO skf_pictures (id, file, caption, width, height) VALUES
  (6, 'storm.jpg', 'Waves over the pier in Brae', 1280, 720);
INSERT INTO skf_pages (id, slug, title, body, status, parent_id, picture_id, author_id) VALUES
  (13, 'storm-notice', 'Storm on Thursday', '<p>No sailings to Skerrow on 19 November. Tickets stay valid.</p>', 'published', NULL, 6, 4);
UPDATE skf_settings SET value = 'No sailings to Skerrow on Thursday' WHERE name = 'notice';
UPDATE skf_settings SET value = 'Four islands, one family' WHERE name = 'tagline';
UPDATE skf_settings SET value = 'a:3:{s:5:"title";s:18:"Find your crossing";s:5:"pages";a:2:{i:0;i:3;i:1;i:4;}s:6:"banner";s:43:"https://skerrow.example/media/mv-selkie.jpg";}' WHERE name = 'home_highlights';
UPDATE skf_harbours SET phone = '+00 555 0170' WHERE id = 1;
UPDATE skf_fares SET price = 9.00 WHERE route_id = 1 AND category = 'adult';
UPDATE skf_pages SET title = 'Fares 2027' WHERE id = 4;
DELETE FROM skf_pages WHERE id = 11;
UPDATE skf_pages SET body = '<p>Ask at the booking desk in Brae, or write to desk@skerrow.example.</p>' WHERE id = 10;
INSERT INTO skf_comments (id, page_id, author, body, written_at) VALUES
  (4, 9, 'Jorunn', 'Will there be lanterns again next year?', '2026-11-17 20:11:00'),
  (5, 13, 'Eskil', 'Thanks for telling us early.', '2026-11-18 08:30:00'),
  (6, 5, 'Ragna', 'It fitted, thank you!', '2026-11-20 12:05:00');
INSERT INTO skf_bookings (sailing_id, passenger, seats, booked_at) VALUES
  (12, 'Ragna Vik', 2, '2026-11-17 07:55:00'),
  (14, 'Eskil Moe', 1, '2026-11-18 19:20:00'),
  (30, 'Tove Lund', 4, '2026-11-20 21:47:00');
INSERT INTO skf_sessions (token, account_id, data) VALUES ('77e0', 4, 'signed in');

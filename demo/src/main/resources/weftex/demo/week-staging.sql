CREATE TABLE skf_booking_offers (
  id ${number},
  title ${name} NOT NULL,
  page_id ${reference} NOT NULL,
  routes ${text} NOT NULL,
  valid_until DATE NOT NULL,
  FOREIGN KEY (page_id) REFERENCES skf_pages (id)
);
ALTER TABLE skf_routes ADD COLUMN booking_fee DECIMAL(6,2) NOT NULL DEFAULT 0;
UPDATE skf_routes SET booking_fee = 2.50 WHERE id = 3;
INSERT INTO skf_pictures (id, file, caption, width, height) VALUES
  (6, 'winter-timetable.jpg', 'MV Selkie in the first snow', 1600, 900);
INSERT INTO skf_pages (id, slug, title, body, status, parent_id, picture_id, author_id) VALUES
  (13, 'winter-timetable', 'Winter timetable', '<p><img class="picture-6" src="https://staging.skerrow.example/media/winter-timetable.jpg"> From 1 December to 28 February: three sailings a day, four on Fridays. See <a href="https://staging.skerrow.example/winter-hesk">the sailings to Hesk</a>.</p>', 'published', 2, 6, 1),
  (14, 'winter-hesk', 'Winter sailings to Hesk', '<p>The 16:30 from Brae waits for the school bus.</p>', 'published', 13, NULL, 1);
INSERT INTO skf_booking_offers (id, title, page_id, routes, valid_until) VALUES
  (1, 'Winter return to Hesk', 14, '[1,2]', '2027-02-28'),
  (2, 'Ten crossings, pay for eight', 4, '[1,2,3,4]', '2027-12-31');
INSERT INTO skf_menu_entries (id, label, page_id, position) VALUES
  (5, 'Winter timetable', 13, 4);
DELETE FROM skf_menu_entries WHERE id = 4;
INSERT INTO skf_sailings (id, route_id, sails_on, departs, vessel) VALUES
  (211, 1, '2026-12-01', '07:30', 'MV Selkie'),
  (212, 1, '2026-12-01', '12:00', 'MV Selkie'),
  (213, 1, '2026-12-01', '16:30', 'MV Selkie'),
  (214, 2, '2026-12-01', '08:45', 'MV Tern');
UPDATE skf_pages SET title = 'Fares and cards', body = '<p>Children under six sail free. Islanders'' cards are accepted on every route, from December also for bicycles.</p>' WHERE id = 4;
UPDATE skf_pages SET body = '<p><img class="picture-3" src="https://staging.skerrow.example/media/ramp.jpg"> Bicycles are welcome on MV Selkie and, from December, on MV Tern. Please book in summer.</p>' WHERE id = 5;
UPDATE skf_pages SET body = '<p>We are looking for deckhands and a second engineer.</p>' WHERE id = 11;
UPDATE skf_pages SET parent_id = 6 WHERE id = 7;
DELETE FROM skf_pages WHERE id = 10;
DELETE FROM skf_comments WHERE page_id = 9;
DELETE FROM skf_pages WHERE id = 9;
UPDATE skf_harbours SET guide = 'Waiting room open from 5:30 in winter. Café on the pier.' WHERE id = 1;
UPDATE skf_fares SET price = 9.00 WHERE route_id = 1 AND category = 'adult';
UPDATE skf_fares SET price = 14.50 WHERE route_id = 3 AND category = 'adult';
UPDATE skf_settings SET value = 'Four islands, all winter' WHERE name = 'tagline';
UPDATE skf_settings SET value = '90' WHERE name = 'booking_days_ahead';
UPDATE skf_settings SET value = 'a:3:{s:5:"title";s:16:"Plan your voyage";s:5:"pages";a:2:{i:0;i:13;i:1;i:4;}s:6:"banner";s:58:"https://staging.skerrow.example/media/winter-timetable.jpg";}' WHERE name = 'home_highlights';
INSERT INTO skf_settings (id, name, value) VALUES (8, 'season', 'winter');

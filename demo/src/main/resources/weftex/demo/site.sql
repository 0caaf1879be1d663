INSERT INTO skf_accounts (id, login, full_name, email) VALUES
  (1, 'mira', 'Mira Tangen', 'mira@skerrow.example'),
  (2, 'odd', 'Odd Strand', 'odd@skerrow.example'),
  (3, 'desk', 'Booking desk', 'desk@skerrow.example');
INSERT INTO skf_pictures (id, file, caption, width, height) VALUES
  (1, 'harbour-brae.jpg', 'Brae harbour at low tide', 1600, 900),
  (2, 'mv-selkie.jpg', 'MV Selkie leaving Hesk', 1600, 1066),
  (3, 'ramp.jpg', 'The ramp for bicycles and prams', 1200, 800),
  (4, 'festival.jpg', 'Lanterns at the summer festival', 1400, 933),
  (5, 'winter-sea.jpg', 'A winter crossing', 1600, 900);
INSERT INTO skf_pages (id, slug, title, body, status, parent_id, picture_id, author_id) VALUES
  (1, 'home', 'Welcome aboard', '<p>Skerrow Ferries sails between Brae, Hesk, Norrey and Skerrow all year round.</p>', 'published', NULL, 2, 1),
  (2, 'timetables', 'Timetables', '<p>Choose a season. Sailings depend on tide and weather, see <a href="https://skerrow.example/pets">what that means for dogs</a>.</p>', 'published', NULL, NULL, 1),
  (3, 'summer-timetable', 'Summer timetable', '<p>From 1 May to 30 September: up to eight sailings a day.</p>', 'published', 2, NULL, 1),
  (4, 'fares', 'Fares', '<p>Children under six sail free. Islanders'' cards are accepted on every route.</p>', 'published', NULL, NULL, 2),
  (5, 'bicycles', 'Travelling with bicycles', '<p><img class="picture-3" src="https://skerrow.example/media/ramp.jpg"> Bicycles are welcome on MV Selkie. Please book in summer.</p>', 'published', NULL, 3, 2),
  (6, 'harbours', 'Harbour guides', '<p>Where to wait, where to park, where to eat.</p>', 'published', NULL, 1, 1),
  (7, 'accessibility', 'Accessibility', '<p>Both vessels have a level gangway at mid tide.</p>', 'published', NULL, NULL, 2),
  (8, 'pets', 'Travelling with pets', '<p>Dogs sail free on the open deck.</p>', 'published', NULL, NULL, 2),
  (9, 'summer-festival', 'Summer festival 2026', '<p>Late sailings on 11 July, back from Norrey at 23:30.</p>', 'published', NULL, 4, 1),
  (10, 'lost-property', 'Lost property', '<p>Ask at the booking desk in Brae.</p>', 'published', NULL, NULL, 3),
  (11, 'jobs', 'Work with us', '<p>We are looking for deckhands.</p>', 'published', NULL, NULL, 1),
  (12, 'parking', 'Parking in Brae', '<p>Sixty places behind the harbour office.</p>', 'published', 6, NULL, 2);
INSERT INTO skf_menu_entries (id, label, page_id, position) VALUES
  (1, 'Timetables', 2, 1),
  (2, 'Fares', 4, 2),
  (3, 'Harbours', 6, 3),
  (4, 'Festival', 9, 4);
INSERT INTO skf_harbours (id, code, name, guide, phone) VALUES
  (1, 'BRA', 'Brae', 'Waiting room open from 6:00. Café on the pier.', '+00 555 0100'),
  (2, 'HES', 'Hesk', 'A shelter, no shop. The bus meets every sailing.', '+00 555 0101'),
  (3, 'NOR', 'Norrey', 'Shop and post office beside the slip.', '+00 555 0102'),
  (4, 'SKE', 'Skerrow', 'Café in summer; toilets all year.', '+00 555 0103');
INSERT INTO skf_routes (id, from_id, to_id, minutes, bicycles) VALUES
  (1, 1, 2, 35, 10),
  (2, 1, 3, 50, 10),
  (3, 1, 4, 70, 6),
  (4, 2, 3, 20, 6);
INSERT INTO skf_fares (route_id, category, price) VALUES
  (1, 'adult', 8.50), (1, 'bicycle', 2.00), (1, 'child', 4.00),
  (2, 'adult', 11.00), (2, 'bicycle', 2.00), (2, 'child', 5.50),
  (3, 'adult', 14.00), (3, 'bicycle', 3.00), (3, 'child', 7.00),
  (4, 'adult', 6.00), (4, 'bicycle', 2.00), (4, 'child', 3.00);
INSERT INTO skf_settings (id, name, value) VALUES
  (1, 'site_title', 'Skerrow Ferries'),
  (2, 'tagline', 'Four islands, one deck'),
  (3, 'booking_days_ahead', '60'),
  (4, 'notice', ''),
  (5, 'desk_hours', 'Monday to Saturday, 7:00 to 18:00'),
  (6, 'site_address', 'https://skerrow.example'),
  (7, 'home_highlights', 'a:3:{s:5:"title";s:16:"Plan your voyage";s:5:"pages";a:2:{i:0;i:3;i:1;i:4;}s:6:"banner";s:43:"https://skerrow.example/media/mv-selkie.jpg";}');
INSERT INTO skf_comments (id, page_id, author, body, written_at) VALUES
  (1, 5, 'Ragna', 'Is there room for a tandem?', '2026-10-02 09:14:00'),
  (2, 9, 'Tove', 'Lovely evening, thank you! 🏮', '2026-07-12 10:02:00'),
  (3, 4, 'Eskil', 'Do islanders'' cards work for bicycles?', '2026-11-03 17:40:00');
INSERT INTO skf_sessions (token, account_id, data) VALUES
  ('f3a1', 1, 'signed in'),
  ('09bc', 3, 'signed in');

UPDATE skf_settings SET value = 'https://staging.skerrow.example' WHERE name = 'site_address';
UPDATE skf_settings SET value = 'a:3:{s:5:"title";s:16:"Plan your voyage";s:5:"pages";a:2:{i:0;i:3;i:1;i:4;}s:6:"banner";s:51:"https://staging.skerrow.example/media/mv-selkie.jpg";}' WHERE name = 'home_highlights';
UPDATE skf_pages SET body = REPLACE(body, 'https://skerrow.example', 'https://staging.skerrow.example') WHERE body LIKE '%https://skerrow.example%';

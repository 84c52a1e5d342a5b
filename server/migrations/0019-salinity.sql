-- How salty the water is (practical salinity, no unit), read at the surface and down a profile.
ALTER TABLE conditions ADD COLUMN salinity double precision;
ALTER TABLE profiles ADD COLUMN salinity double precision;

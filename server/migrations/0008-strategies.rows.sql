-- What was set of the strategies of a species had another name.
UPDATE species SET profile = (profile - 'schools') || jsonb_build_object('strategies', profile -> 'schools') WHERE profile ? 'schools';

-- What the tables stand on: word pieces for finding, and the order in which people expect names.
create extension if not exists pg_trgm;
--> statement-breakpoint
create collation if not exists "natural" (provider = icu, locale = 'en-GB-u-kn-true');

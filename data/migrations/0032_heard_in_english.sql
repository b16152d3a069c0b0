-- It knows no other language; what was heard by earlier versions did not say so.
UPDATE "recognitions" SET "language" = 'en-US' WHERE "language" IS NULL AND "recogniser" = 'pocketsphinx';

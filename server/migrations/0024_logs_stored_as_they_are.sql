-- Samples are doubles that hardly get smaller, and a part of a block is read far more often than the whole of it: stored
-- as they are, a part is fetched without unpacking what stands before it.
ALTER TABLE "log_blocks" ALTER COLUMN "samples" SET STORAGE EXTERNAL;--> statement-breakpoint
ALTER TABLE "log_blocks" ALTER COLUMN "chunks" SET STORAGE EXTERNAL;

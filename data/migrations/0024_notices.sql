CREATE FUNCTION tell_of_task() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  project uuid := CASE WHEN TG_OP = 'DELETE' THEN OLD.project_id ELSE NEW.project_id END;
BEGIN
  IF project IS NOT NULL THEN
    PERFORM pg_notify('bright_reel', json_build_object('project', project, 'what', 'tasks')::text);
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER tasks_come_and_go AFTER INSERT OR DELETE ON tasks FOR EACH ROW EXECUTE FUNCTION tell_of_task();
--> statement-breakpoint
CREATE TRIGGER tasks_change AFTER UPDATE ON tasks FOR EACH ROW
  WHEN ((OLD.state, OLD.progress, OLD.seconds_left, OLD.sentence, OLD.put_away) IS DISTINCT FROM (NEW.state, NEW.progress, NEW.seconds_left, NEW.sentence, NEW.put_away))
  EXECUTE FUNCTION tell_of_task();

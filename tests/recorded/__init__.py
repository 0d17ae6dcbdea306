"""What the engines said of the sounds that tests use, so that only the tests of engines wait for models."""

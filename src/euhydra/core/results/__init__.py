"""What is worked out of a garden: frozen results, each by one function from explicit inputs."""

"""The rules of the job: values in, values out, nothing outside the process touched."""

"""Live sources: lines listened to, the recorder, the survey of a bus, the replay of a capture, and the rig."""

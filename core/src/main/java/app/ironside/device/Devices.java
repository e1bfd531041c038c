package app.ironside.device;

/** All devices of one kit. */
public record Devices(
        Mount mount,
        Camera camera,
        Camera guideCamera,
        Focuser focuser,
        FilterWheel wheel,
        FlatPanel panel,
        AlignmentHands hands) {}

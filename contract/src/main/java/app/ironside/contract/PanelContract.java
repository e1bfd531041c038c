package app.ironside.contract;

import app.ironside.device.FlatPanel;
import org.junit.jupiter.api.Test;

/** What is asked of a flat panel. */
public abstract class PanelContract extends DeviceContract<FlatPanel> {
    @Override
    protected Object ask(FlatPanel panel) {
        return panel.open();
    }

    @Test
    public void itLightsCoversAndOpens() throws Exception {
        FlatPanel panel = connected();
        done(panel.light(0.4));
        done(panel.light(1));
        done(panel.cover());
        done(panel.open());
    }
}

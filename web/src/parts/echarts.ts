import { BarChart, CustomChart, HeatmapChart, LineChart, ScatterChart } from 'echarts/charts';
import { GridComponent, MarkLineComponent, TooltipComponent, VisualMapComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { CanvasRenderer, SVGRenderer } from 'echarts/renderers';

// The parts of the library that are used.
echarts.use([
  BarChart,
  LineChart,
  CustomChart,
  HeatmapChart,
  ScatterChart,
  GridComponent,
  TooltipComponent,
  MarkLineComponent,
  VisualMapComponent,
  SVGRenderer,
  CanvasRenderer,
]);

export { echarts };

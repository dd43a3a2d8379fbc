/** The parts of ECharts that are drawn with, loaded when the first chart is shown. */
import { LineChart } from 'echarts/charts';
import { GridComponent, MarkAreaComponent, MarkLineComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';

echarts.use([LineChart, GridComponent, MarkAreaComponent, MarkLineComponent, SVGRenderer]);

export const { init } = echarts;

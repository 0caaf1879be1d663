/**
 * Skerrow Ferries, a made-up island ferry line, and a week of parallel work on its site. {@link
 * weftex.demo.DemoSite} builds it. The product needs nothing from here.
 */
package weftex.demo;
